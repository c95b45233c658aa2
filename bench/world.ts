import { resolve } from 'node:path';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { LEDGER_TABLES, withoutChecks } from './without-checks.ts';

/** From the project's folder, where scripts/bench.mjs runs. */
export const MIGRATIONS = resolve('src/lib/server/kernel/db/migrations');

/** Units made of one sub-lot; also the size of the small trace. */
export const PER_SUBLOT = 1000;
/** Sub-lots the hub went into: about 50,000 marks downstream of it. */
export const HUB_SUBLOTS = 50;
/** Links per unit: its own serial part, its sub-lot, and two lots shared with others. */
const LINKS_PER_UNIT = 4;

export interface BenchWorld {
  links: number;
  hub: number;
  small: number;
  person: number;
  place: number;
  product: number;
  /** Units that were shipped. */ shipped: number;
}

/**
 * Generates a ledger of about `links` genealogy links in four levels: raw lots → sub-lots → units
 * with a serial part each and two shared lots → shipments of half of them. Set-based and in one
 * booking's transaction; foreign keys are checked and stock is summed when all rows are there.
 * Needs the owner's rights and an empty ledger.
 */
export async function generateWorld(sql: Sql, links: number): Promise<BenchWorld> {
  const sublots = Math.max(12, Math.round(links / LINKS_PER_UNIT / PER_SUBLOT)),
    hubSublots = Math.min(HUB_SUBLOTS, sublots - 10);
  const units = sublots * PER_SUBLOT,
    raws = sublots - hubSublots + 1;
  await sql`INSERT INTO person (login, name) VALUES ('bench', 'Bench')`;
  await sql`INSERT INTO site (code, name) VALUES ('S', 'Site')`;
  await sql`INSERT INTO place (site_id, code, name) SELECT id, 'P', 'place' FROM site`;
  await sql`
    INSERT INTO partner (code, name, supplier, customer) VALUES ('X', 'Partner', true, true)
  `;
  await sql`
    INSERT INTO product (code, name, unit, decimals, made, marking)
    VALUES ('RAW', 'raw', 'kg', 3, false, 'lot'), ('SUB', 'sub-lot', 'kg', 3, true, 'lot'),
      ('COM', 'common lot', 'kg', 3, false, 'lot'), ('PART', 'part', 'each', 0, false, 'serial'),
      ('UNIT', 'unit', 'each', 0, true, 'serial')
  `;
  const id = async (table: string, code: string) =>
    (
      await sql<
        { id: number }[]
      >`SELECT id FROM ${sql(table)} WHERE ${sql(table === 'person' ? 'login' : 'code')} = ${code}`
    )[0]!.id;
  const person = await id('person', 'bench'),
    place = await id('place', 'P'),
    partner = await id('partner', 'X');
  const [raw, sub, com, piece, unit] = (await Promise.all(
    ['RAW', 'SUB', 'COM', 'PART', 'UNIT'].map((code) => id('product', code))
  )) as [number, number, number, number, number];
  // Ids are reckoned: lots first, then sub-lot by sub-lot its parts and its units, as bookings
  // would have made them.
  const firstRaw = 1,
    firstCom = firstRaw + raws,
    firstSub = firstCom + 2 * sublots,
    firstOwn = firstSub + sublots;
  const arrival = 1,
    cutting = 2,
    eventOf = (kind: 0 | 1 | 2) => `3 + 3 * n + ${kind}`;
  const partOf = `${firstOwn} + 2 * ${PER_SUBLOT} * n + i`,
    unitOf = `${firstOwn} + 2 * ${PER_SUBLOT} * n + ${PER_SUBLOT} + i`,
    tieOf = `${sublots} + 1 + ${PER_SUBLOT} * n + i`;
  const rawOf = `CASE WHEN n < ${hubSublots} THEN ${firstRaw} ELSE ${firstRaw} + n - ${hubSublots} + 1 END`;
  const each = `(SELECT g / ${PER_SUBLOT} AS n, g % ${PER_SUBLOT} AS i FROM generate_series(0, ${units - 1}) g) u`,
    subs = `generate_series(0, ${sublots - 1}) n`;
  await sql.begin((tx) =>
    withoutChecks(tx, LEDGER_TABLES, async () => {
      const run = (text: string) => tx.unsafe(text);
      await run(
        `INSERT INTO event (id, kind, document, partner_id, happened_at, booked_by) VALUES (${arrival}, 'receive', 'R-LOTS', ${partner}, now(), ${person}), (${cutting}, 'build', 'B-SUB', NULL, now(), ${person})`
      );
      await run(
        `INSERT INTO event (id, kind, document, partner_id, happened_at, booked_by) SELECT ${eventOf(0)}, 'receive', 'R-' || n, ${partner}, now(), ${person} FROM ${subs} UNION ALL SELECT ${eventOf(1)}, 'build', 'B-' || n, NULL, now(), ${person} FROM ${subs} UNION ALL SELECT ${eventOf(2)}, 'ship', 'S-' || n, ${partner}, now(), ${person} FROM ${subs}`
      );
      const mark = (first: number, count: number, product: number, prefix: string, born: number) =>
        run(
          `INSERT INTO mark (id, product_id, kind, number, birth_event) SELECT ${first} + g, ${product}, 'lot', '${prefix}-' || (g + 1), ${born} FROM generate_series(0, ${count - 1}) g`
        );
      await mark(firstRaw, raws, raw, 'RAW', arrival);
      await mark(firstCom, 2 * sublots, com, 'COM', arrival);
      await mark(firstSub, sublots, sub, 'SUB', cutting);
      await run(
        `INSERT INTO mark (id, product_id, kind, number, birth_event) SELECT ${partOf}, ${piece}, 'serial', 'PART-' || n || '-' || (i + 1), ${eventOf(0)} FROM ${each}`
      );
      await run(
        `INSERT INTO mark (id, product_id, kind, number, birth_event) SELECT ${unitOf}, ${unit}, 'serial', 'UNIT-' || n || '-' || (i + 1), ${eventOf(1)} FROM ${each}`
      );
      await run(
        `INSERT INTO transformation (id, event_id) SELECT n + 1, ${cutting} FROM ${subs} UNION ALL SELECT ${tieOf}, ${eventOf(1)} FROM ${each}`
      );
      await run(
        `INSERT INTO transformation_input (transformation_id, mark_id, quantity) SELECT n + 1, ${rawOf}, 10 FROM ${subs}`
      );
      await run(
        `INSERT INTO transformation_input (transformation_id, mark_id, quantity) SELECT ${tieOf}, v.m, v.q FROM ${each} CROSS JOIN LATERAL (VALUES (${partOf}, 1), (${firstSub} + n, 0.5), (${firstCom} + 2 * n, 0.25), (${firstCom} + 2 * n + 1, 0.125)) AS v (m, q)`
      );
      await run(
        `INSERT INTO transformation_output (transformation_id, mark_id, quantity) SELECT n + 1, ${firstSub} + n, 1000 FROM ${subs} UNION ALL SELECT ${tieOf}, ${unitOf}, 1 FROM ${each}`
      );
      const move = (rows: string) =>
        run(
          `INSERT INTO movement (event_id, place_id, mark_id, quantity) SELECT e, ${place}, m, q FROM (${rows}) AS v (e, m, q)`
        );
      await move(
        `SELECT ${arrival}, ${firstRaw} + g, 1000 FROM generate_series(0, ${raws + 2 * sublots - 1}) g UNION ALL SELECT ${cutting}, ${rawOf}, -10 FROM ${subs} UNION ALL SELECT ${cutting}, ${firstSub} + n, 1000 FROM ${subs}`
      );
      await move(`SELECT ${eventOf(0)}, ${partOf}, 1 FROM ${each}`);
      await move(
        `SELECT ${eventOf(1)}, v.m, v.q FROM ${each} CROSS JOIN LATERAL (VALUES (${partOf}, -1), (${unitOf}, 1)) AS v (m, q) UNION ALL SELECT ${eventOf(1)}, v.m, v.q * ${PER_SUBLOT} FROM ${subs} CROSS JOIN LATERAL (VALUES (${firstSub} + n, -0.5), (${firstCom} + 2 * n, -0.25), (${firstCom} + 2 * n + 1, -0.125)) AS v (m, q)`
      );
      await move(`SELECT ${eventOf(2)}, ${unitOf}, -1 FROM ${each} WHERE i % 2 = 0`);
      await run(
        `INSERT INTO stock (mark_id, place_id, mark_kind, product_id, expires_on, quantity) SELECT v.mark_id, v.place_id, m.kind, m.product_id, m.expires_on, sum(v.quantity) FROM movement v JOIN mark m ON m.id = v.mark_id GROUP BY v.mark_id, v.place_id, m.kind, m.product_id, m.expires_on`
      );
      await run(
        `SELECT setval('event_id_seq', (SELECT max(id) FROM event)), setval('mark_id_seq', (SELECT max(id) FROM mark)), setval('transformation_id_seq', (SELECT max(id) FROM transformation))`
      );
    })
  );
  await sql`ANALYZE`;
  return {
    links: sublots * (PER_SUBLOT * LINKS_PER_UNIT + 1),
    hub: firstRaw,
    small: firstRaw + 1,
    person,
    place,
    product: piece,
    shipped: units / 2
  };
}
