import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { allotNumbers } from './catalogue/numbering.ts';
import { readPlans } from './catalogue/plans.ts';
import { readSpecs } from './catalogue/specs.ts';
import { IMPORTS, type ImportKind } from './imports.ts';
import type { ImportMode } from './kernel/imports/report.ts';
import { readPeople } from './people/write-people.ts';
import { makeWorld, newKey, type World } from './testing/world.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const bring = (kind: ImportKind, lines: readonly string[], mode: ImportMode = 'write') =>
  IMPORTS[kind].run({
    sql: world.sql,
    actor: world.actor,
    file: new TextEncoder().encode(lines.join('\n')),
    mode,
    document: 'OPEN'
  });
const verdicts = async (kind: ImportKind, lines: readonly string[], mode?: ImportMode) =>
  (await bring(kind, lines, mode)).rows.map((row) => row.verdict);

describe('an empty Earmark is filled from a folder of spreadsheets', () => {
  it('partners and places, and the same file again changes nothing', async () => {
    const partners = [
      'Code,Name,Supplier,Customer,GLN,Contact',
      'WEAVER,Weavers,yes,,4000001000005,Ann',
      'FERRY,Ferries,,x,,'
    ];
    expect(await verdicts('partners', partners)).toEqual(['new', 'new']);
    expect(await verdicts('partners', partners)).toEqual(['same', 'same']);
    const places = ['Code;Name;Site;Kind', 'Q-1;Quay rack;Q;rack', 'Q-2;Held;Q;Quarantine'];
    expect(await verdicts('places', places)).toEqual(['new', 'new']);
    expect(await verdicts('places', ['code,name,site', 'Q-1,Quay rack 1,Q'])).toEqual(['changed']);
  });

  it('people with their roles, and no passwords', async () => {
    const people = ['Sign-in,Name,Roles', 'ida,Ida,"receiver, shipper"', 'bo,Bo,captain'];
    expect(await verdicts('people', people, 'write-good')).toEqual(['new', 'fault']);
    const ida = (await readPeople(world.sql)).find((one) => one.login === 'ida');
    expect(ida).toMatchObject({ roles: ['receiver', 'shipper'], canSignIn: false, active: true });
  });

  it('numbering schemes that go on where the old system stopped, and never back', async () => {
    const HEAD = 'Code,Name,Number,Next count';
    expect(await verdicts('numbering-schemes', [HEAD, 'OLD,Old,RS-{count 5},418'])).toEqual([
      'new'
    ]);
    await bring('products', ['code,name,unit,marking,serial scheme', 'NUM,num,each,serial,OLD']);
    const wanted = { product: 'NUM', kind: 'serial', count: 2 } as const;
    const { numbers } = await allotNumbers(world.sql, world.actor, newKey(), wanted, new Date());
    expect(numbers).toEqual(['RS-00418', 'RS-00419']);
    const back = await bring('numbering-schemes', [HEAD, 'OLD,Old,RS-{count 5},418']);
    expect(back.rows[0]!.messages.join()).toContain('has counted to 419');
    const bad = await bring('numbering-schemes', [HEAD, 'BAD,Bad,RS-{nought},']);
    expect(bad.rows[0]!.messages.join()).toContain('“{nought}” is no part of a number');
  });

  it('marking plans with their facts, and specs with a customer’s own limits', async () => {
    const plans = [
      'Code,Name,Marked by,Expiry,Fact,Fact kind,Fact unit,Fact least,Fact most,If expired',
      'COOL,cool,lot,entered,temperature,number,°C,2,8,reason',
      'COOL,,,,carrier,text,,,,'
    ];
    expect(await verdicts('marking-plans', plans)).toEqual(['new']);
    const { plan } = (await readPlans(world.sql)).find((one) => one.code === 'COOL')!;
    expect(plan).toMatchObject({ identity: 'lot', expires: 'entered' });
    expect(plan.facts.map((fact) => fact.name)).toEqual(['temperature', 'carrier']);
    expect(plan.answers).toMatchObject({ expired: 'reason', held: 'stop' });
    expect(await verdicts('marking-plans', plans)).toEqual(['same']);

    const specs = [
      'Product,Customer,Characteristic,Unit,Least,Most,Hold on fail',
      'LOT,,strength,N,40,,yes',
      'LOT,CUS,strength,N,60,,'
    ];
    expect(await verdicts('specs', specs)).toEqual(['new']);
    expect(await verdicts('specs', specs)).toEqual(['same']);
    const kept = await readSpecs(world.sql, ['LOT']);
    expect(kept.map((one) => [one.partner, one.spec.limits[0]!.least])).toEqual([
      [null, '40'],
      ['CUS', '60']
    ]);
  });

  it('says what is wrong with a row in words a person can act on', async () => {
    const said = async (kind: ImportKind, lines: readonly string[]) =>
      (await bring(kind, lines)).rows.flatMap((row) => row.messages).join(' ');
    expect(await said('partners', ['code,name,GLN', 'X,x,123'])).toContain('right check digit');
    expect(await said('places', ['code,name,site,kind', 'X,x,S,cellar'])).toContain('kind');
    expect(await said('marking-plans', ['code,name,marked by', 'X,x,colour'])).toContain(
      '“colour” under marked by is none of'
    );
    expect(await said('specs', ['product,characteristic,kind', 'NONE,c,text'])).toContain('NONE');
    expect(await said('people', ['sign-in,name,roles', ',x,receiver'])).toContain(
      'The sign-in is missing'
    );
    expect(await said('partners', ['code,name', 'TWICE,a', 'twice,b'])).toContain('row 2 already');
  });
});
