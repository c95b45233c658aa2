import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Actor } from '../../kernel/actor.ts';
import { putPlace } from '../../catalogue/partners-places.ts';
import { makeWorld, newKey, type World } from '../../testing/world.ts';
import { move } from '../kinds.ts';
import { approveCount } from './approve-count.ts';
import { openCount } from './open-count.ts';
import { writeEntries } from './write-entries.ts';

let world: World;
let other: Actor;
beforeAll(async () => {
  world = await makeWorld();
  const [person] = await world.sql<{ id: number }[]>`
    INSERT INTO person (login, name, roles) VALUES ('eye', 'Second Eye', '{coordinator}')
    RETURNING id
  `;
  other = { ...world.actor, personId: person!.id };
});
afterAll(() => world.end());

const LOTS = ['A', 'B'] as const;
const PLACES = ['1', '2'] as const;
type Lot = (typeof LOTS)[number];
type Place = (typeof PLACES)[number];

/** What happens in the store: goods are lost or found before anybody counts; then work goes on. */
const amount = fc.integer({ min: 0, max: 9 });
const lost = fc.record({
  lot: fc.constantFrom(...LOTS),
  place: fc.constantFrom(...PLACES),
  by: fc.integer({ min: -4, max: 4 })
});
const step = fc.oneof(
  fc.record({
    does: fc.constant('count' as const),
    lot: fc.constantFrom(...LOTS),
    place: fc.constantFrom(...PLACES)
  }),
  fc.record({
    does: fc.constant('move' as const),
    lot: fc.constantFrom(...LOTS),
    place: fc.constantFrom(...PLACES),
    quantity: fc.integer({ min: 1, max: 4 })
  }),
  fc.record({
    does: fc.constant('receive' as const),
    lot: fc.constantFrom(...LOTS),
    place: fc.constantFrom(...PLACES),
    quantity: fc.integer({ min: 1, max: 4 })
  })
);

it('counts come to what really lies there, whatever is booked while people count (replayed)', async () => {
  let run = 0;
  const histories = fc.record({
    begin: fc.array(amount, { minLength: 4, maxLength: 4 }),
    lost: fc.array(lost, { maxLength: 3 }),
    steps: fc.array(step, { maxLength: 14 })
  });
  await fc.assert(
    fc.asyncProperty(histories, async ({ begin, lost: losses, steps }) => {
      run++;
      const lotOf = (lot: Lot) => `${lot}-${run}`;
      const placeOf = (place: Place) => `R${run}-${place}`;
      const document = `RC-${run}`;
      for (const place of PLACES)
        await putPlace(world.sql, placeOf(place), { name: place, site: 'S1' });

      // The shelf as it is, and as the ledger has it: the model knows none of the code.
      const shelf = new Map<string, number>();
      const books = new Map<string, number>();
      const key = (lot: Lot, place: Place) => `${lot} ${place}`;
      const put = (store: Map<string, number>, at: string, by: number) =>
        store.set(at, (store.get(at) ?? 0) + by);
      const receive = async (lot: Lot, place: Place, quantity: number) => {
        await world.receive('LOT', [{ lot: lotOf(lot) }], String(quantity), placeOf(place));
        put(shelf, key(lot, place), quantity);
        put(books, key(lot, place), quantity);
      };
      let at = 0;
      for (const lot of LOTS)
        for (const place of PLACES) {
          const quantity = begin[at++]!;
          if (quantity > 0) await receive(lot, place, quantity);
        }
      for (const { lot, place, by } of losses)
        put(shelf, key(lot, place), Math.max(by, -(shelf.get(key(lot, place)) ?? 0)));

      await openCount(world.sql, world.actor, {
        document,
        places: PLACES.map(placeOf)
      });
      const counted = new Set<string>();
      const count = async (lot: Lot, place: Place) => {
        const quantity = String(shelf.get(key(lot, place)) ?? 0);
        const known = await world.sql`SELECT FROM mark WHERE number = ${lotOf(lot)}`;
        if (known.length === 0 && quantity === '0') return;
        await writeEntries(world.sql, world.actor, document, {
          lines: [{ product: 'LOT', place: placeOf(place), lot: lotOf(lot), quantity }],
          done: []
        });
        counted.add(key(lot, place));
      };
      for (const one of steps) {
        if (one.does === 'count') await count(one.lot, one.place);
        else if (one.does === 'receive') await receive(one.lot, one.place, one.quantity);
        else {
          const to = one.place === '1' ? '2' : '1';
          const from = key(one.lot, one.place);
          // Nobody carries what is not there, nor books what the books do not have.
          if ((shelf.get(from) ?? 0) < one.quantity || (books.get(from) ?? 0) < one.quantity)
            continue;
          await world.book(move, {
            document: 'M',
            kind: 'move',
            lines: [
              {
                product: 'LOT',
                lot: lotOf(one.lot),
                from: placeOf(one.place),
                to: placeOf(to),
                quantity: String(one.quantity)
              }
            ]
          });
          for (const store of [shelf, books]) {
            put(store, from, -one.quantity);
            put(store, key(one.lot, to), one.quantity);
          }
        }
      }
      // In the end everything was looked at once: what nobody counted is counted now.
      for (const lot of LOTS)
        for (const place of PLACES) if (!counted.has(key(lot, place))) await count(lot, place);
      await approveCount(world.sql, other, newKey(), document, { reason: 'replayed' });

      const lying = await world.sql<{ at: string; quantity: string }[]>`
        SELECT split_part(m.number, '-', 1) || ' ' || split_part(c.code, '-', 2) AS at, s.quantity
        FROM stock s
          JOIN mark m ON m.id = s.mark_id AND split_part(m.number, '-', 2) = ${String(run)}
          JOIN place c ON c.id = s.place_id
        WHERE s.quantity > 0
      `;
      const ledger = Object.fromEntries(lying.map((row) => [row.at, Number(row.quantity)]));
      const real = Object.fromEntries([...shelf].filter(([, quantity]) => quantity > 0));
      expect(ledger).toEqual(real);
    }),
    { numRuns: 25 }
  );
});
