import { afterAll, beforeAll, expect, test } from 'vitest';
import { amend } from '../stock/kinds.ts';
import type { World } from '../testing/world.ts';
import { CopiedLeaves } from './copied-leaves.ts';
import { leavesOf } from './leaves.ts';
import { newSealKey, sealedWorld } from './testing/seal-all.ts';

let world: World;
beforeAll(async () => {
  ({ world } = await sealedWorld(newSealKey()));
});
afterAll(() => world.end());

const idsOf = async (): Promise<number[]> =>
  (await world.sql<{ id: number }[]>`SELECT id FROM event ORDER BY id`).map(({ id }) => id);
const copied = (events: readonly number[]) =>
  world.sql.begin(async (tx) => (await CopiedLeaves.open(tx)).of(events)) as Promise<
    Map<number, string>
  >;
const written = async (events: readonly number[]) =>
  new Map((await leavesOf(world.sql, events)).map(({ event, text }) => [event, text]));

/** Whatever a text may hold that COPY or JSON writes in a way of its own. */
const STRANGE = 'tab\there, "quoted" back\\slash, \\N, \\t, line\nend, ü 針 🚢, \u0001 \u007f';

test('a leaf put together here is letter for letter what PostgreSQL writes', async () => {
  await world.book(amend, {
    document: 'A-STRANGE',
    reason: STRANGE,
    lines: [
      { product: 'SER', serial: 'S2', to: { number: 'S2-NEW', supplierNumber: 'THEIRS "1"' } },
      { product: 'LOT', lot: 'L1', to: { expires: '2031-02-28' } }
    ]
  });
  await world.receive('SER', [{ serial: 'C:\\N\\1', supplierNumber: 'a\\tb' }]);
  await world.owner`
    UPDATE mark SET facts = ${world.owner.json({ 'hue "x"': 'a\nb', width: { value: '4.50', unit: '"' }, z: '' })}
    WHERE number = 'L1'
  `;
  const events = await idsOf();
  expect(await copied(events)).toEqual(await written(events));
});

test('events that lie far apart are found, and one that is not there is none', async () => {
  const events = await idsOf();
  const [first, last] = [events[0]!, events.at(-1)!];
  const far = [first, last, last + 1_000_000];
  expect(await copied(far)).toEqual(await written([first, last]));
});
