import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import { readFeed, type FedEvent } from './feed.ts';
import { Feed } from './schemas.ts';
import { sealLedger } from './seal.ts';
import { newSealKey, sealAll, sealedWhole } from './testing/seal-all.ts';

const key = newSealKey();
let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('SER', [{ serial: 'F1' }]);
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: 'M1', quantity: '1' }],
      inputs: [{ product: 'SER', serial: 'F1', quantity: '1' }]
    }
  ] as never);
  await world.ship([{ product: 'MADE', marks: [{ serial: 'M1' }] }] as never);
});
afterAll(() => world.end());

/** What a reader has who goes on by `next` until nothing more comes. */
async function readOn(limit: number, after?: number): Promise<{ events: FedEvent[]; at: number }> {
  const events: FedEvent[] = [];
  let at = after ?? 0;
  for (;;) {
    const page = await readFeed(world.sql, at, limit);
    Feed.parse(page);
    events.push(...page.events);
    if (page.next === undefined) return { events, at };
    at = Number(page.next);
  }
}

test('every event comes once with its rows, in pages of any size', async () => {
  await sealAll(world.sql, key);
  const { events } = await readOn(2);
  expect(events.map((event) => event.kind)).toEqual(['receive', 'build', 'ship']);
  expect((await readOn(1)).events).toEqual(events);
  const [received, built, shipped] = events;
  const made = { product: 'SER', kind: 'serial', number: 'F1' };
  expect(received).toMatchObject({
    partner: 'SUP',
    bookedBy: 'test',
    movements: [{ ...made, place: expect.any(String), quantity: '1' }]
  });
  expect(built!.transformations).toEqual([
    {
      inputs: [{ ...made, quantity: '1' }],
      outputs: [{ product: 'MADE', kind: 'serial', number: 'M1', quantity: '1' }]
    }
  ]);
  expect(shipped!.movements[0]).toMatchObject({ product: 'MADE', quantity: '-1' });
  expect(JSON.stringify(events)).not.toContain('cost');
});

test('readers who go on meanwhile miss nothing, whoever books and commits when', async () => {
  await sealAll(world.sql, key);
  const { events: before, at: begin } = await readOn(10);
  const seen: FedEvent[] = [];
  let at = begin;
  let booking = true;
  const reading = (async () => {
    while (booking || !(await sealedWhole(world.sql, key))) {
      await sealLedger(world.sql, key);
      const page = await readOn(3, at);
      seen.push(...page.events);
      at = page.at;
    }
    seen.push(...(await readOn(3, at)).events);
  })();
  await Promise.all(
    Array.from({ length: 30 }, (_, n) => world.receive('SER', [{ serial: `R-${n}` }]))
  );
  booking = false;
  await reading;
  const [{ count }] = await world.sql<
    [{ count: number }]
  >`SELECT count(*)::int AS count FROM event`;
  const ids = [...before, ...seen].map((event) => event.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids).toHaveLength(count);
});
