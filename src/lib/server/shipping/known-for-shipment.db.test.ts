import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { judgeGoing } from '../../core/ledger/judge-known.ts';
import { readKnownText, knownText } from '../../core/ledger/known-text.ts';
import type { Packing, Shipment } from '../../core/ledger/request.ts';
import { decidePick } from '../../core/shipping/decide-pick.ts';
import { decidePacking } from '../../core/shipping/pack.ts';
import { pickableKnown } from '../../core/shipping/pickable-known.ts';
import { decideShipment } from '../../core/shipping/ship.ts';
import { check } from '../ledger/book.ts';
import { putOrder } from '../orders/write-order.ts';
import { quality } from '../quality/kinds.ts';
import { caught } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { knownForShipment } from './known-for-shipment.ts';
import { pack, ship } from './kinds.ts';
import { makePickList } from './make-pick-list.ts';
import { pickByScan } from './pick-list.ts';
import { readPicksOf } from './picks.ts';

const TODAY = new Date().toISOString().slice(0, 10);
const later = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

let world: World;
let known: string;
let carton: string;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('LOT', [{ lot: 'L-1', expires: later(400) }], '10', 'RACK');
  await world.receive('LOT', [{ lot: 'L-HELD', expires: later(500) }], '5', 'RACK');
  await world.receive('LOT', [{ lot: 'L-OTHER', expires: later(600) }], '5', 'RACK');
  await world.receive('SER', [{ serial: 'S-1' }, { serial: 'S-2' }], '2', 'DOCK');
  await world.receive('KG', [{ lot: 'K-1', expires: later(400) }], '5', 'RACK');
  await world.book(quality, {
    ...{ document: 'Q-1', kind: 'hold', reason: 'look again' },
    marks: [{ product: 'LOT', lot: 'L-HELD' }]
  });
  const lines = [
    { product: 'LOT', quantity: '12' },
    { product: 'SER', quantity: '2' }
  ];
  const order = { partner: 'CUS', due: later(5), note: '', lines };
  await putOrder(world.sql, world.actor, 'sales', 'SO-AWAY', order as never);
  await putOrder(world.sql, world.actor, 'sales', 'SO-OTHER', order as never);
  const now = { until: null, day: TODAY };
  const promise = { line: 1, lot: 'L-OTHER', quantity: '5' };
  await makePickList(world.sql, world.actor, 'SO-OTHER', [promise], now);
  const picks = [
    { line: 1, lot: 'L-1', quantity: '6' },
    { line: 2, serial: 'S-1', quantity: '1' }
  ];
  await makePickList(world.sql, world.actor, 'SO-AWAY', picks, now);
  const packed = await world.book(pack, packing({ lines: [{ ...LOT, quantity: '1' }] }));
  [carton] = (packed as unknown as { units: [string] }).units;
  known = knownText((await knownForShipment(world.sql, 'SO-AWAY'))!);
});
afterAll(() => world.end());

const LOT = { product: 'LOT', lot: 'L-1' };
const packing = (more: object) =>
  ({ document: 'SO-AWAY', kind: 'pack', make: 'carton', units: [], ...more }) as never;
const shipment = (marks: object[], more: object = {}) => ({
  ...{ document: 'SO-AWAY', customer: 'CUS', lines: [{ product: 'LOT', marks }] },
  ...more
});

describe('a shipment judged away from the ledger', () => {
  it.each([
    ['good', shipment([{ lot: 'L-1', quantity: '2' }])],
    ['more than lies there', shipment([{ lot: 'L-1', quantity: '200' }])],
    ['held', shipment([{ lot: 'L-HELD', quantity: '1' }])],
    ['promised to another', shipment([{ lot: 'L-OTHER', quantity: '1' }])],
    ['more than is open', shipment([{ lot: 'L-1', quantity: '9' }])],
    ['all that is packed, loose', shipment([{ lot: 'L-1', quantity: '10' }])],
    ['no numbers', shipment([], { lines: [{ product: 'LOT', quantity: '2' }] })],
    ['another customer', shipment([{ lot: 'L-1', quantity: '1' }], { customer: 'NOBODY' })],
    [
      'a serial twice',
      shipment([], { lines: [{ product: 'SER', marks: [{ serial: 'S-1' }, { serial: 's-1' }] }] })
    ]
  ])('is judged as the server judges it: %s', async (_, request) => {
    const away = judgeGoing(decideShipment, readKnownText(known), request as Shipment, new Date());
    const { faults, notes } = await check(world.sql, ship, world.actor, request as never);
    expect(away).toEqual({ faults, notes });
  });

  it('is judged with its cartons', async () => {
    const request = { document: 'SO-AWAY', customer: 'CUS', lines: [], units: [carton] };
    const away = judgeGoing(decideShipment, readKnownText(known), request, new Date());
    const { faults, notes } = await check(world.sql, ship, world.actor, request as never);
    expect(away).toEqual({ faults, notes });
    expect(faults).toEqual([]);
  });

  it('holds no number wrong that it does not know, and says so', () => {
    const request = shipment([{ lot: 'L-CAME-SINCE', quantity: '1' }]) as Shipment;
    const away = judgeGoing(decideShipment, readKnownText(known), request, new Date());
    expect(away.faults).toEqual([]);
    expect(away.notes[0]!.message).toMatch(/^L-CAME-SINCE is not known on this device/);
  });
});

describe('packing judged away from the ledger', () => {
  it.each([
    ['good', () => packing({ unit: carton, make: undefined, lines: [{ ...LOT, quantity: '2' }] })],
    ['more than lies there', () => packing({ lines: [{ ...LOT, quantity: '200' }] })],
    ['held', () => packing({ lines: [{ product: 'LOT', lot: 'L-HELD', quantity: '1' }] })]
  ])('is judged as the server judges it: %s', async (_, asked) => {
    const request = asked() as Packing;
    const away = judgeGoing(decidePacking, readKnownText(known), request, new Date());
    const { faults, notes } = await check(world.sql, pack, world.actor, request as never);
    expect(away).toEqual({ faults, notes });
  });
});

describe('picking away from the ledger', () => {
  const here = async (scan: string) => {
    const picks = await readPicksOf(world.sql, 'SO-AWAY', TODAY);
    const mark = pickableKnown(readKnownText(known), picks, scan)!;
    return decidePick(picks, mark, {}, 'SO-AWAY', TODAY);
  };
  const there = (scan: string) =>
    pickByScan(world.sql, world.actor, 'SO-AWAY', newKey(), { scan }, TODAY);

  it.each(['L-HELD', 'L-OTHER', 'S-2'])('refuses %s as the server does', async (scan) => {
    const decision = await here(scan);
    const [fault] = await caught(there(scan));
    expect(decision).toMatchObject({ is: 'refused', message: fault!.message });
  });

  it.each(['L-1', 's-1', 'L-1'])('takes %s as the server does', async (scan) => {
    const decision = await here(scan);
    expect((await there(scan)).said).toBe('said' in decision ? decision.said : '');
  });

  it('does not know what is on no line of the order', () => {
    expect(pickableKnown(readKnownText(known), [], 'K-1')).toBeNull();
  });
});

it('of no such order nothing is known', async () => {
  expect(await knownForShipment(world.sql, 'SO-NONE')).toBeNull();
});
