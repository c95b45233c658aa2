import { afterAll, beforeAll, expect, test } from 'vitest';
import { receive } from '../receiving/kinds.ts';
import { reverse } from '../ledger/kinds.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { goodsReturn, ship } from './kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

// PostgreSQL has some six thousand locks as it is set up; a lock for each serial would be more.
const MANY = 8_000;

test('eight thousand serials go out, come back, and both is taken back, each in one booking', async () => {
  const marks = Array.from({ length: MANY }, (_, n) => ({ serial: `MB-${n}` }));
  const line = { product: 'SER', place: 'DOCK', quantity: String(MANY), marks };
  await world.book(receive, { document: 'R-MANY', supplier: 'SUP', lines: [line] });
  const lines = [{ product: 'SER', marks }];
  const shipped = await world.book(ship, { document: 'S-MANY', customer: 'CUS', lines });
  const back = marks.map((mark) => ({ product: 'SER', ...mark }));
  const returned = await world.book(goodsReturn, {
    document: 'B-MANY',
    place: 'DOCK',
    lines: back
  });
  for (const { event } of [returned, shipped])
    await world.book(reverse, { document: 'T-MANY', event: event.id, reason: 'a test' });
  const [row] = await world.sql<[{ lying: number }]>`
    SELECT count(*)::int AS lying
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
    WHERE m.number LIKE 'MB-%' AND s.quantity = 1
  `;
  expect(row.lying).toBe(MANY);
});
