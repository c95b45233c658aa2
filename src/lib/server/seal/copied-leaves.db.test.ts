import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { amend } from '../stock/kinds.ts';
import type { World } from '../testing/world.ts';
import { fieldOf, writeRow } from './copied-row.ts';
import { copyLines } from './copy-lines.ts';
import { JsonLists } from './json-bytes.ts';
import { leavesOf } from './leaves.ts';
import { copiedTexts } from './testing/copied-texts.ts';
import { newSealKey, sealedWorld } from './testing/seal-all.ts';

let world: World;
beforeAll(async () => {
  ({ world } = await sealedWorld(newSealKey()));
});
afterAll(() => world.end());

const idsOf = async (): Promise<number[]> =>
  (await world.sql<{ id: number }[]>`SELECT id FROM event ORDER BY id`).map(({ id }) => id);
const copied = (events: readonly number[]) => copiedTexts(world.sql, events);
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

test('any text comes out as PostgreSQL writes it', async () => {
  const texts = fc
    .sample(fc.string({ unit: 'binary', maxLength: 40 }), { numRuns: 1_000, seed: 20_261_201 })
    .map((text) => text.replaceAll('\0', ''));
  await world.owner.begin(async (tx) => {
    await tx`CREATE TEMP TABLE said (id int, text text) ON COMMIT DROP`;
    await tx`
      INSERT INTO said SELECT n, text FROM unnest(${texts}::text[]) WITH ORDINALITY AS x (text, n)
    `;
    const rows = await tx<
      { json: string }[]
    >`SELECT to_jsonb(s)::text AS json FROM said s ORDER BY id`;
    const columns = [
      { name: 'id', type: 'int4' },
      { name: 'text', type: 'text' }
    ];
    const lists = new JsonLists();
    await copyLines(tx, 'SELECT id, text FROM said ORDER BY id', (line) =>
      writeRow(lists.put(0), columns.map(fieldOf), line, line.start)
    );
    expect(lists.get(0)!.toString()).toBe(rows.map(({ json }) => json).join(', '));
  });
});

test('a number in a fact is never taken for one that JavaScript takes it for', async () => {
  const eventOf = async (facts: string): Promise<number> => {
    const [{ event }] = await world.owner<[{ event: number }]>`
      UPDATE mark SET facts = ${facts}::text::jsonb WHERE number = 'L1'
      RETURNING birth_event AS event
    `;
    return event;
  };
  for (const facts of ['{"width": 9007199254740993}', '{"width": {"value": 4.50}}']) {
    const event = await eventOf(facts);
    expect(await copied([event])).not.toEqual(await written([event]));
  }
  expect(await eventOf('{}')).toBeGreaterThan(0);
});
