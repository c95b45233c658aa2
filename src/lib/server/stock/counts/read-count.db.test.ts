import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Actor } from '../../kernel/actor.ts';
import { putPlace } from '../../catalogue/partners-places.ts';
import { makeWorld, newKey, type World } from '../../testing/world.ts';
import { approveCount } from './approve-count.ts';
import { readCountHead } from './count-head.ts';
import { readCountLines } from './count-lines.ts';
import { openCount } from './open-count.ts';
import { readCount } from './read-count.ts';
import { writeEntries } from './write-entries.ts';

let world: World;
let other: Actor;
beforeAll(async () => {
  world = await makeWorld();
  const [person] = await world.sql<{ id: number }[]>`
    INSERT INTO person (login, name, roles) VALUES ('eye', 'Second Eye', '{coordinator}')
    RETURNING id
  `;
  other = { ...world.actor, personId: person!.id, login: 'eye', name: 'Second Eye' };
});
afterAll(() => world.end());

let count = 0;
/** A place of its own for each test, and a count of it. */
async function fresh(more: object = {}): Promise<{ place: string; document: string }> {
  const place = `P-${++count}`,
    document = `C-${count}`;
  await putPlace(world.sql, place, { name: place, site: 'S1' });
  await openCount(world.sql, world.actor, { document, places: [place], ...more });
  return { place, document };
}
const enter = (
  document: string,
  lines: Parameters<typeof writeEntries>[3]['lines'],
  done: string[] = []
) => writeEntries(world.sql, world.actor, document, { lines, done });
const approve = (document: string) =>
  approveCount(world.sql, other, newKey(), document, { reason: 'yearly count' });

it('hides what should lie there while it is blind and open', async () => {
  const { place, document } = await fresh({ blind: true });
  await world.receive('SER', [{ serial: 'KH' }], '1', place);
  await world.receive('LOT', [{ lot: 'KHL' }], '2', place);
  const { lines, total } = (await readCount(world.sql, document)).count;
  expect(lines).toEqual([{ product: 'LOT', place, lot: 'KHL' }]);
  // How many there are in all would say how many serials should be there.
  expect(total).toBe(1);
  await enter(document, [{ product: 'LOT', place, lot: 'KHL', quantity: '2' }], [place]);
  expect((await readCount(world.sql, document)).count.lines[0]).not.toHaveProperty('difference');
  await approve(document);
  expect((await readCount(world.sql, document)).count.lines).toContainEqual(
    expect.objectContaining({ serial: 'KH', counted: '0', difference: '-1' })
  );
});

it('tells what is off by itself, for whoever approves', async () => {
  const { place, document } = await fresh();
  const lots = [{ lot: 'KO1' }, { lot: 'KO2' }].map((one) => ({ ...one, quantity: '2' }));
  await world.receive('LOT', lots, '4', place);
  await enter(document, [
    { product: 'LOT', place, lot: 'KO1', quantity: '2' },
    { product: 'LOT', place, lot: 'KO2', quantity: '5' },
    { product: 'LOT', place, lot: 'KO3', quantity: '1' }
  ]);
  const head = await readCountHead(world.sql, document);
  expect(await readCountLines(world.sql, head)).toMatchObject({ total: 3 });
  const off = await readCountLines(world.sql, head, 'off');
  expect(off.total).toBe(2);
  expect(off.rows.map((line) => [line.lot, line.seen, line.counted])).toEqual([
    ['KO2', '2', '5'],
    ['KO3', '0', '1']
  ]);
});
