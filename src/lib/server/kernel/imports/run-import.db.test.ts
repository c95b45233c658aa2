import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from '../../testing/world.ts';
import { within } from '../db/client.ts';
import { Problem } from '../problem.ts';
import type { ImportMode } from './report.ts';
import { runImport, type ImportRecord } from './run-import.ts';

let world: World;
let file = 0;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** How a record goes: it is kept, refused before or after it wrote something, or was never read. */
type Goes = 'well' | 'refused' | 'refused after writing' | 'unread';

const wrong = (): Problem => new Problem(422, 'wrong', []);
const recordOf = (code: string, goes: Goes, row: number): ImportRecord => ({
  row,
  what: code,
  faults: goes === 'unread' ? ['unread'] : [],
  // As most tables keep theirs: in a part of its own.
  keep: (tx) =>
    within(tx, async (part) => {
      if (goes === 'refused') throw wrong();
      await part`INSERT INTO partner (code, name) VALUES (${code}, 'imported')`;
      if (goes === 'refused after writing') throw wrong();
      return 'new' as const;
    })
});
async function run(goes: readonly Goes[], mode: ImportMode) {
  const prefix = `F${++file}-`;
  const records = goes.map((one, row) => recordOf(`${prefix}${row}`, one, row));
  const report = await runImport(world.sql, records, [], mode);
  const kept = await world.sql<{ code: string }[]>`
    SELECT code FROM partner WHERE code LIKE ${`${prefix}%`} ORDER BY id
  `;
  return { report, kept: kept.map(({ code }) => Number(code.slice(prefix.length))) };
}

test('what is good is kept and what is wrong is named, row by row, whatever stands beside it', async () => {
  const goes = fc.constantFrom<Goes>('well', 'refused', 'refused after writing', 'unread');
  const modes = fc.constantFrom<ImportMode>('check', 'write', 'write-good');
  await fc.assert(
    fc.asyncProperty(fc.array(goes, { maxLength: 12 }), modes, async (all, mode) => {
      const { report, kept } = await run(all, mode);
      const isGood = all.map((one) => one === 'well');
      expect(report.rows.map((one) => [one.row, one.verdict])).toEqual(
        isGood.map((good, row) => [row, good ? 'new' : 'fault'])
      );
      const written = mode === 'write-good' || (mode === 'write' && isGood.every(Boolean));
      expect(report.written).toBe(written);
      expect(kept).toEqual(written ? isGood.flatMap((good, row) => (good ? [row] : [])) : []);
    }),
    { numRuns: 40 }
  );
});

test('a part is begun anew where it is full, also with wrong rows at its edges', async () => {
  const all = Array.from({ length: 1_201 }, (_, row): Goes =>
    [0, 499, 500, 501, 1_000, 1_200].includes(row) ? 'refused after writing' : 'well'
  );
  const { report, kept } = await run(all, 'write-good');
  expect(report.counts).toEqual({ new: 1_195, changed: 0, same: 0, fault: 6 });
  expect(kept).toHaveLength(1_195);
});

// PostgreSQL keeps a lock for every part that wrote, 64 of them for each connection it may have.
test('more records than the database has locks', async () => {
  const all = Array.from({ length: 8_000 }, (_, row): Goes => (row % 2 ? 'well' : 'refused'));
  const { report } = await run(all, 'check');
  expect(report.counts).toMatchObject({ new: 4_000, fault: 4_000 });
});
