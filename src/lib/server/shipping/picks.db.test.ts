import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putProduct } from '../catalogue/products.ts';
import { putOrder } from '../orders/write-order.ts';
import { quality } from '../quality/kinds.ts';
import { move } from '../stock/kinds.ts';
import { caught } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { ship } from './kinds.ts';
import { makePickList } from './make-pick-list.ts';
import { pickByScan } from './pick-list.ts';
import { readPicksOf } from './picks.ts';

const TODAY = new Date().toISOString().slice(0, 10);
const later = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const NOW = { until: null, day: TODAY };

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

describe('the stops of a pick list', () => {
  it('follow the truth: what was moved says where, what is held, expired or gone is none', async () => {
    for (const [lot, days] of [
      ['LONG', 400],
      ['OTHER', 500],
      ['DYING', 90]
    ] as const)
      await world.receive('LOT', [{ lot, expires: later(days) }], '10');
    await world.receive('LOT', [{ lot: 'GOING', expires: later(300) }], '4');
    await putOrder(world.sql, world.actor, 'sales', 'SO-PICK', {
      ...{ partner: 'CUS', due: later(5), note: '', lines: [{ product: 'LOT', quantity: '20' }] }
    } as never);
    await makePickList(
      ...([world.sql, world.actor, 'SO-PICK'] as const),
      [
        { line: 1, lot: 'LONG', quantity: '2' },
        { line: 1, lot: 'OTHER', quantity: '2' },
        { line: 1, lot: 'GOING', quantity: '4' },
        { line: 1, lot: 'DYING', quantity: '2' }
      ],
      NOW
    );
    const stops = async (day = TODAY) =>
      (await readPicksOf(world.sql, 'SO-PICK', day))
        .map((pick) => `${pick.number} ${pick.place} ${pick.fell ?? ''}`.trim())
        .sort();
    expect(await stops()).toEqual(['DYING DOCK', 'GOING DOCK', 'LONG DOCK', 'OTHER DOCK']);
    await world.book(move, {
      ...{ document: 'M-1', kind: 'move' },
      lines: [{ product: 'LOT', lot: 'LONG', from: 'DOCK', to: 'RACK', quantity: '10' }]
    });
    await world.book(quality, {
      ...{ document: 'Q-1', kind: 'hold', reason: 'look again' },
      marks: [{ product: 'LOT', lot: 'OTHER' }]
    });
    await world.book(ship, {
      ...{ document: 'S-AWAY', customer: 'CUS' },
      lines: [{ product: 'LOT', marks: [{ lot: 'GOING', quantity: '4' }] }],
      reasons: { 'mark.reserved': 'the other one first' }
    });
    expect(await stops()).toEqual([
      'DYING DOCK',
      'GOING DOCK gone',
      'LONG RACK',
      'OTHER DOCK held'
    ]);
    expect(await stops(later(91))).toContain('DYING DOCK expired');
    // The scan of what was moved tells the picker where the paper was wrong.
    const taken = await pickByScan(
      ...([world.sql, world.actor, 'SO-PICK', newKey()] as const),
      { scan: 'LONG' },
      TODAY
    );
    expect(taken.said).toContain('It lies at RACK, not at DOCK');
  });
});

describe('goods without number on a pick list', () => {
  const BOLT = { product: 'BOLT' };
  beforeAll(async () => {
    await putProduct(world.sql, 'BOLT', {
      ...{ name: 'bolt', unit: 'each', decimals: 0, made: false, marking: 'none' }
    } as never);
    await world.receive('BOLT', undefined as never, '6', 'RACK');
    await world.receive('BOLT', undefined as never, '5', 'DOCK');
    await putOrder(world.sql, world.actor, 'sales', 'SO-BOLT', {
      ...{ partner: 'CUS', due: later(5), note: '', lines: [{ ...BOLT, quantity: '20' }] }
    } as never);
  });
  const list = (quantity: string) =>
    makePickList(world.sql, world.actor, 'SO-BOLT', [{ line: 1, quantity }], NOW);
  const scanned = (scan: string, quantity?: string) =>
    pickByScan(
      ...([world.sql, world.actor, 'SO-BOLT', newKey()] as const),
      { scan, ...(quantity ? { quantity } : {}) },
      TODAY
    );

  it('are fetched where they lie, by the code of their product', async () => {
    const { picks } = await list('8');
    expect(picks.map((pick) => `${pick.kind} ${pick.place} ${pick.quantity}`)).toEqual([
      'bulk DOCK 5',
      'bulk RACK 3'
    ]);
    expect((await scanned('bolt')).said).toBe('5 each of BOLT picked.');
    expect((await scanned('BOLT', '2')).said).toBe('2 each of BOLT picked.');
    expect(await caught(scanned('BOLT', '2'))).toMatchObject([{ code: 'quantity.mismatch' }]);
  });

  it('stay picked when the list is made anew, and are not more than there is', async () => {
    const { picks } = await list('9');
    expect(picks.map((pick) => `${pick.place} ${pick.picked}/${pick.quantity}`).sort()).toEqual([
      'DOCK 5/5',
      'RACK 0/2',
      'RACK 2/2'
    ]);
    expect(await caught(list('40'))).toMatchObject([{ code: 'stock.short', number: 'BOLT' }]);
  });
});

describe('any serials on a pick list', () => {
  const list = (number: string, quantity: string) =>
    makePickList(world.sql, world.actor, number, [{ line: 1, quantity }], NOW);
  const order = (number: string, quantity: string) =>
    putOrder(world.sql, world.actor, 'sales', number, {
      ...{ partner: 'CUS', due: later(5), note: '', lines: [{ product: 'SER', quantity }] }
    } as never);

  it('are a stop each, whole, and no more than are ordered', async () => {
    await order('SO-ANY', '3');
    const { picks } = await list('SO-ANY', '3');
    expect(picks.map((pick) => pick.quantity)).toEqual(['1', '1', '1']);
    for (const quantity of ['1.5', '4', '0', '1000000000'])
      expect(await caught(list('SO-ANY', quantity)), quantity).toMatchObject([
        { code: 'quantity.mismatch', path: 'lines[0]', number: 'SER' }
      ]);
  });

  it('of a mistyped order are refused before a stop is written for each', async () => {
    await order('SO-HUGE', '1000000000');
    const [refused] = await caught(list('SO-HUGE', '1000000000'));
    expect(refused!.message).toContain('Fetch them in parts');
  });
});
