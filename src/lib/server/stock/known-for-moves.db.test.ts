import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { afterwards } from '../../core/ledger/afterwards.ts';
import { decideKnown, judgeGoing } from '../../core/ledger/judge-known.ts';
import { readKnownText, knownText } from '../../core/ledger/known-text.ts';
import type { Move } from '../../core/ledger/request.ts';
import { decideMove } from '../../core/stock/decide-move.ts';
import { lyingKnown, type LyingAskedFor } from '../../core/stock/lying-known.ts';
import { check } from '../ledger/book.ts';
import { pack } from '../shipping/kinds.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { move } from './kinds.ts';
import { knownForMoves } from './known-for-moves.ts';
import { readLying } from './lying.ts';

let world: World;
let known: string;
let carton: string;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('LOT', [{ lot: 'L-1', expires: '2031-01-01' }], '10', 'DOCK');
  await world.receive('SIL', [{ lot: 'SL-1', serial: 'S-1' }], '1', 'RACK');
  await world.receive('BULK', undefined as never, '7', 'RACK');
  const packed = await world.book(pack, {
    ...{ document: 'P-1', kind: 'pack', make: 'carton', units: [] },
    lines: [{ product: 'LOT', lot: 'L-1', quantity: '2' }]
  } as never);
  [carton] = (packed as unknown as { units: [string] }).units;
  known = knownText(await knownForMoves(world.sql));
});
afterAll(() => world.end());

const lot = (more: object) => ({
  product: 'LOT',
  ...{ lot: 'L-1', from: 'DOCK', to: 'RACK', quantity: '4' },
  ...more
});
const moved = (lines: object[], more: object = {}) =>
  ({ document: 'M-1', kind: 'move', lines, ...more }) as unknown as Move;
const away = (request: Move, text = known) =>
  judgeGoing(decideMove, readKnownText(text), request, new Date());

describe('a move judged away from the ledger', () => {
  it.each([
    ['good', moved([lot({})])],
    ['more than lies there', moved([lot({ quantity: '11' })])],
    ['what is in a carton', moved([lot({ quantity: '10' })])],
    ['where it lies already', moved([lot({ to: 'DOCK' })])],
    ['from where it does not lie', moved([lot({ from: 'LINE' })])],
    ['to no such place', moved([lot({ to: 'NOWHERE' })])],
    ['a serial', moved([{ product: 'SIL', serial: 'S-1', from: 'RACK', to: 'DOCK' }])],
    ['without number', moved([{ product: 'BULK', from: 'RACK', to: 'DOCK', quantity: '3' }])]
  ])('is judged as the server judges it: %s', async (_, request) => {
    const { faults, notes } = await check(world.sql, move, world.actor, request as never);
    expect(away(request)).toEqual({ faults, notes });
  });

  it('carries cartons', async () => {
    const request = moved([], { units: [{ sscc: carton, to: 'RACK' }] });
    const { faults, notes } = await check(world.sql, move, world.actor, request as never);
    expect(away(request)).toEqual({ faults, notes });
    expect(faults).toEqual([]);
  });

  it('knows where things lie after a move that waits, as the ledger does once it is booked', async () => {
    const first = moved([lot({})]);
    const before = readKnownText(known);
    const decision = decideKnown(decideMove, before, first, new Date());
    if (!decision.ok) throw new Error('the first move is good');
    const after = knownText(afterwards(before, decision.rows));
    const asked: LyingAskedFor[] = [
      { numbers: ['l-1', 's-1', 'BULK'] },
      { place: 'RACK' },
      { place: 'DOCK' }
    ];
    const second = moved([lot({ from: 'RACK', to: 'LINE', quantity: '4' })]);
    const third = moved([lot({ from: 'RACK', to: 'LINE', quantity: '5' })]);
    const here = asked.map((one) => lyingKnown(readKnownText(after), one));
    const judged = [second, third].map((request) => away(request, after));
    await world.book(move, first as never);
    const ordered = (rows: readonly object[]) => rows.map((row) => JSON.stringify(row)).sort();
    for (const [at, one] of asked.entries()) {
      const { rows } = await readLying(world.sql, one);
      const there = rows.map(({ expires: _, ...row }) => row);
      expect(ordered(here[at]!)).toEqual(ordered(there));
    }
    for (const [at, request] of [second, third].entries()) {
      const { faults, notes } = await check(world.sql, move, world.actor, request as never);
      expect(judged[at]).toEqual({ faults, notes });
    }
  });
});
