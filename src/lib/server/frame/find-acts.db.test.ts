import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import { find } from './find.ts';
import { findAct, findActs } from './find-acts.ts';

describe('acts that are typed', () => {
  let world: World;
  const acts = async (text: string, role: 'coordinator' | 'auditor' = 'coordinator') =>
    (await findActs(world.sql, text, [role])).map(({ title, exact }) => [title, exact]);

  beforeAll(async () => {
    world = await makeWorld();
    await world.receive('SER', [{ serial: 'ACT-1' }, { serial: 'ACT-10' }], '2');
  });
  afterAll(() => world.end());

  it('are done to what is called so, the one that is meant first', async () => {
    expect(await acts('recall act-1')).toEqual([
      ['Recall ACT-1', true],
      ['Recall ACT-10', false]
    ]);
    expect(await acts('recall ACT-10')).toEqual([['Recall ACT-10', true]]);
    expect(await acts('recall NO-SUCH')).toEqual([]);
  });
  it('lead to the mark by its id, and to the place by its code', async () => {
    const [recall] = await findActs(world.sql, 'recall ACT-10', ['coordinator']);
    const [row] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'ACT-10'`;
    expect(recall!.href).toBe(`/recall/new?mark=${row!.id}`);
    const [count] = await findActs(world.sql, 'count place line', ['coordinator']);
    expect(count).toMatchObject({ title: 'Count LINE', href: '/count?place=LINE', exact: true });
  });
  it('are one alone, or none, where they are typed over a sheet', async () => {
    const coordinator = ['coordinator'] as const;
    expect(await findAct(world.sql, 'count LINE', coordinator)).toEqual({
      href: '/count?place=LINE'
    });
    expect(await findAct(world.sql, 'ACT-10', coordinator)).toBeNull();
    expect(await findAct(world.sql, 'new', coordinator)).toBeNull();
  });
  it('are only those their roles may do', async () => {
    expect(await acts('recall ACT-10', 'auditor')).toEqual([]);
    expect(await acts('trace ACT-10', 'auditor')).toEqual([['Where it all went: ACT-10', true]]);
  });
  it('take a number’s wildcards as plain signs', async () => {
    expect(await acts('recall %')).toEqual([]);
    expect(await acts('count _')).toEqual([]);
  });
  it('stand before what only holds the text, and what is done here before what is not', async () => {
    const today = '2026-11-30';
    const asked = { today, roles: ['coordinator'] as const };
    const hits = await find(world.sql, 'new', asked);
    expect(hits[0]!.type).toBe('do');
    const there = await find(world.sql, 'new', { ...asked, here: '/setup/plans' });
    expect(there[0]).toMatchObject({ title: 'New product' });
  });
});
