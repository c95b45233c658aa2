import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putBill } from '../catalogue/bills.ts';
import { putProduct } from '../catalogue/products.ts';
import { reverse } from '../ledger/kinds.ts';
import { build, fit } from '../making/kinds.ts';
import { readBuildGaps } from '../making/build-gaps.ts';
import { receive } from '../receiving/kinds.ts';
import { amend } from '../stock/kinds.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { readLooseEnds, type LooseEndKind } from './loose-ends.ts';

const TODAY = new Date().toISOString().slice(0, 10);

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  const product = (code: string, marking: string, weight: string | null, made = true) =>
    putProduct(world.sql, code, {
      ...{ name: code, unit: 'each', decimals: marking === 'serial' ? 0 : 3, made, marking },
      netWeightKg: weight
    } as never);
  await product('HEAD', 'lot', '0.1', false);
  await product('GLUE', 'lot', '1', false);
  await product('UNIT', 'serial', '0.5');
  await product('PAIR', 'serial', '0.5');
  await product('PASTE', 'lot', '1');
  const part = (code: string, quantity: string, more: object = {}) => ({
    ...{ product: code, quantity, per: 'unit', scrapPercent: '0', follow: 'unit' },
    ...{ positions: [], alternates: [], revision: null },
    ...more
  });
  const bill = (parts: object[]) =>
    ({ batch: null, note: '', parts, coProducts: [], validFrom: '2020-01-01' }) as never;
  await putBill(world.sql, 'UNIT', bill([part('HEAD', '1')]), null);
  await putBill(world.sql, 'PAIR', bill([part('HEAD', '3')]), null);
  await putBill(
    world.sql,
    'PASTE',
    bill([part('GLUE', '5', { per: 'batch', follow: 'batch' })]),
    null
  );
  await world.receive('HEAD', [{ lot: 'H1', quantity: '50' }], '50');
  await world.receive('GLUE', [{ lot: 'G1', quantity: '50' }], '50');
});
afterAll(() => world.end());

const made = (document: string, output: object, inputs: object[] = []) =>
  world.book(build, {
    ...{ document, place: 'LINE' },
    groups: [{ outputs: [output], inputs }]
  } as never);
const unit = (serial: string) => ({ product: 'UNIT', serial, quantity: '1' });
const paste = (lot: string) => ({ product: 'PASTE', lot, quantity: '4' });
const of = (product: string, lot: string, quantity: string) => ({ product, lot, quantity });
const gaps = async () =>
  (await readBuildGaps(world.sql)).rows.map(
    (gap) => `${gap.number} ${gap.component} ${gap.used}/${gap.wanted}`
  );
const ends = async (kind: LooseEndKind) =>
  (await readLooseEnds(world.sql, TODAY)).ends
    .filter((end) => end.kind === kind)
    .map((end) => `${end.title}: ${end.says}`);

describe('parts that nobody named', () => {
  it('are missing without a work order too, by the bill in force', async () => {
    await made('NO-ORDER', unit('U1'));
    expect(await gaps()).toEqual(['U1 HEAD 0/1']);
    await world.book(fit, {
      ...{ document: 'FIT-1', place: 'LINE', reason: 'found on the bench' },
      units: [
        { product: 'UNIT', serial: 'U1', fit: [{ product: 'HEAD', lot: 'H1', quantity: '1' }] }
      ]
    } as never);
    expect(await gaps()).toEqual([]);
  });

  it('of a unit are missing until enough of them was put in, and not any', async () => {
    await made('PAIR', { product: 'PAIR', serial: 'P1', quantity: '1' }, [of('HEAD', 'H1', '1')]);
    expect(await gaps()).toEqual(['P1 HEAD 1/3']);
    const fitOne = (document: string) =>
      world.book(fit, {
        ...{ document, place: 'LINE', reason: 'found on the bench' },
        units: [
          { product: 'PAIR', serial: 'P1', fit: [{ product: 'HEAD', lot: 'H1', quantity: '1' }] }
        ]
      } as never);
    await fitOne('FIT-2');
    expect(await gaps()).toEqual(['P1 HEAD 2/3']);
    const { event } = await fitOne('FIT-3');
    expect(await gaps()).toEqual([]);
    await world.book(reverse, { document: 'BACK', event: event.id, reason: 'loose' } as never);
    expect(await gaps()).toEqual(['P1 HEAD 2/3']);
    await fitOne('FIT-4');
  });

  it('of a batch are missing until it is booked whole; another batch of the lot mends nothing', async () => {
    const { event } = await made('BATCH', paste('L1'), [of('GLUE', 'G1', '3')]);
    expect(await gaps()).toEqual(['L1 GLUE 3/5']);
    await made('BATCH-2', paste('L1'), [of('GLUE', 'G1', '5')]);
    expect(await gaps()).toEqual(['L1 GLUE 3/5']);
    await world.book(reverse, { document: 'BACK', event: event.id, reason: 'short' } as never);
    expect(await gaps()).toEqual([]);
  });
});

describe('more made than its parts can carry', () => {
  it('is told by weight, where all of it is known', async () => {
    await putProduct(world.sql, 'SLURRY', {
      ...{ name: 'slurry', unit: 'kg', decimals: 3, made: true, marking: 'lot' }
    } as never);
    await made('FULL', { product: 'SLURRY', lot: 'S1', quantity: '2' }, [of('GLUE', 'G1', '2')]);
    await made('THIN', { product: 'SLURRY', lot: 'S2', quantity: '3' }, [of('GLUE', 'G1', '2')]);
    expect(await ends('beyond its parts')).toEqual([
      'S2 of SLURRY: THIN: 3 kg made of 2 kg of parts'
    ]);
  });
});

describe('dates that cannot be', () => {
  const received = (at: string | undefined, dates: object = {}) =>
    world.book(receive, {
      ...{ document: 'R-DATES', supplier: 'SUP', ...(at ? { at } : {}) },
      lines: [
        { product: 'HEAD', place: 'DOCK', quantity: '1', marks: [{ lot: 'H-DATE', ...dates }] }
      ]
    } as never);

  it('are refused where somebody amends the day it was made to a later one than it came', async () => {
    await received('2026-03-10T10:00:00Z', { made: '2026-03-01' });
    const [fault] = await world.refused(amend, {
      ...{ document: 'A-1', reason: 'label read again' },
      lines: [{ product: 'HEAD', lot: 'H-DATE', to: { made: '2026-03-11' } }]
    } as never);
    expect(fault).toMatchObject({ code: 'date.missing', path: 'lines[0].to.made' });
    expect(fault!.message).toContain('is here since 10 Mar 2026');
  });

  it('are told where its coming was corrected to a day before', async () => {
    const [event] = await world.sql<[{ id: number }]>`
      SELECT id
      FROM event
      WHERE document = 'R-DATES'
    `;
    await world.book(reverse, { document: 'BACK', event: event.id, reason: 'wrong day' } as never);
    await received('2026-02-20T10:00:00Z', { made: '2026-02-10' });
    expect(await ends('dates that cannot be')).toEqual([]);
    // As it was possible before amendments looked at it: the owner puts the old row back.
    await world.owner`UPDATE mark SET made_on = '2026-03-01' WHERE number = 'H-DATE'`;
    expect(await ends('dates that cannot be')).toEqual([
      'H-DATE of HEAD: made on 2026-03-01, but here since 2026-02-20'
    ]);
  });
});
