import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  hostileRequests,
  type HostileRequest,
  type SmallWorld
} from '../../core/ledger/testing/hostile-requests.ts';
import { kindAt } from '../kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { pack } from '../shipping/kinds.ts';
import {
  makeWorld,
  newKey,
  onHandByMovements,
  onHandByStock,
  type World
} from '../testing/world.ts';
import { book } from './book.ts';

let world: World;
let small: SmallWorld;

beforeAll(async () => {
  world = await makeWorld();
  await world.receive('LOT', [{ lot: 'L1' }], '20');
  await world.receive('LOT', [{ lot: 'L2' }], '20');
  await world.receive('SER', [{ serial: 'S1' }, { serial: 'S2' }, { serial: 'S3' }]);
  await world.receive('SIL', [
    { lot: 'L1', serial: 'S4' },
    { lot: 'L1', serial: 'S5' }
  ]);
  await world.receive('BULK', [], '50');
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: 'U1', quantity: '1' }],
      inputs: [{ product: 'LOT', lot: 'L1', quantity: '2' }]
    }
  ]);
  await world.ship([{ product: 'LOT', marks: [{ lot: 'L2', quantity: '3' }] }]);
  const carton = await world.book(pack, {
    document: 'P-1',
    kind: 'pack',
    make: 'carton',
    lines: [{ product: 'LOT', lot: 'L2', quantity: '2' }],
    units: []
  });
  small = {
    products: ['LOT', 'SER', 'SIL', 'BULK', 'MADE', 'MADELOT'],
    things: [
      ...['L1', 'L2', 'l1', 'N1'].map((lot) => ({ product: 'LOT', lot })),
      ...['S1', 'S2', 's1', 'S3', 'N2'].map((serial) => ({ product: 'SER', serial })),
      ...['S4', 'S5', 'N3'].map((serial) => ({ product: 'SIL', lot: 'L1', serial })),
      { product: 'BULK' },
      ...['U1', 'U2', 'U3'].map((serial) => ({ product: 'MADE', serial })),
      ...['M1', 'M2'].map((lot) => ({ product: 'MADELOT', lot }))
    ],
    places: ['DOCK', 'RACK', 'LINE'],
    lots: ['L1', 'L2', 'l1', 'N1'],
    serials: ['S1', 'S2', 'S4', 's1', 'U1', 'N1'],
    events: [1, 3, 6, 7, 9, 999],
    units: [...(carton.units ?? []), '000000000000000000']
  };
});
afterAll(() => world.end());

/** What became of a request: booked, refused with faults, or what it must never be. */
async function sendIt({ path, request }: HostileRequest): Promise<string> {
  const kind = kindAt(path)!;
  const body = kind.schema.safeParse(request);
  if (!body.success) return 'malformed';
  try {
    await book(world.sql, kind, world.actor, newKey(), body.data);
    return 'booked';
  } catch (error) {
    if (!(error instanceof Problem)) return `broke: ${(error as Error).message}`;
    if (error.errors.some((one) => one.path === undefined)) return 'a fault without a path';
    return 'refused';
  }
}

describe('hostile requests of every kind', () => {
  it('are booked whole or refused with faults, never a database error, and the books stay square', async () => {
    const requests = fc.sample(hostileRequests(small), {
      numRuns: 1500,
      seed: 20_261_125
    });
    const outcomes = new Map<string, number>();
    for (const request of requests) {
      const outcome = await sendIt(request);
      if (!['booked', 'refused', 'malformed'].includes(outcome))
        expect.soft(outcome, JSON.stringify(request)).toBe('booked or refused');
      outcomes.set(outcome, (outcomes.get(outcome) ?? 0) + 1);
    }
    expect(await onHandByStock(world.sql)).toEqual(await onHandByMovements(world.sql));
    // Both happen: a generator that is only ever refused would prove nothing.
    expect(outcomes.get('booked')).toBeGreaterThan(50);
    expect(outcomes.get('refused')).toBeGreaterThan(300);
  });
});
