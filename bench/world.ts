import type { Sql } from '../src/lib/server/db/client.ts';

/** Units made of one sub-lot; also the size of the small trace. */
export const PER_SUBLOT = 1000;
/** Sub-lots the hub went into: about 50,000 marks downstream of it. */
export const HUB_SUBLOTS = 50;
/** Links per unit: its own serial part, its sub-lot, and two lots shared with others. */
const LINKS_PER_UNIT = 4;

export interface BenchWorld { links: number; hub: number; small: number; person: number; place: number; product: number }

/**
 * Generates a ledger of about `links` genealogy links in four levels, set-based, through the same tables and triggers as
 * real bookings: raw lots → sub-lots → units with a serial part each and two shared lots → shipments. Needs the owner's rights.
 */
export async function generateWorld(sql: Sql, links: number): Promise<BenchWorld> {
  const sublots = Math.max(HUB_SUBLOTS + 10, Math.round(links / LINKS_PER_UNIT / PER_SUBLOT));
  await sql`INSERT INTO person (login, name) VALUES ('bench', 'Bench')`;
  await sql`INSERT INTO site (code, name) VALUES ('S', 'Site')`;
  await sql`INSERT INTO place (site_id, code, name) SELECT id, 'P', 'place' FROM site`;
  await sql`INSERT INTO partner (code, name, supplier, customer) VALUES ('X', 'Partner', true, true)`;
  await sql`INSERT INTO product (code, name, unit, decimals, made, marking) VALUES
    ('RAW', 'raw', 'kg', 3, false, 'lot'), ('SUB', 'sub-lot', 'kg', 3, true, 'lot'), ('COM', 'common lot', 'kg', 3, false, 'lot'), ('PART', 'part', 'each', 0, false, 'serial'), ('UNIT', 'unit', 'each', 0, true, 'serial')`;
  const id = async (table: string, code: string) => (await sql<{ id: number }[]>`SELECT id FROM ${sql(table)} WHERE ${sql(table === 'person' ? 'login' : 'code')} = ${code}`)[0]!.id;
  const person = await id('person', 'bench'), place = await id('place', 'P'), partner = await id('partner', 'X');
  const [raw, sub, com, piece, unit] = await Promise.all(['RAW', 'SUB', 'COM', 'PART', 'UNIT'].map((code) => id('product', code)));
  const event = async (kind: string, document: string): Promise<number> => (await sql<{ id: number }[]>`
    INSERT INTO event (kind, document, partner_id, happened_at, booked_by) VALUES (${kind}, ${document}, ${kind === 'build' ? null : partner}, now(), ${person}) RETURNING id`)[0]!.id;
  const marks = async (product: number, kind: string, prefix: string, count: number, born: number): Promise<number> => {
    const [row] = await sql<{ first: number }[]>`
      WITH made AS (INSERT INTO mark (product_id, kind, number, birth_event) SELECT ${product}::bigint, ${kind}::text, ${prefix}::text || '-' || n, ${born}::bigint FROM generate_series(1, ${count}) n RETURNING id) SELECT min(id) AS first FROM made`;
    return row!.first;
  };
  const move = (at: number, first: number, count: number, quantity: string) => sql`
    INSERT INTO movement (event_id, mark_id, place_id, quantity) SELECT ${at}::bigint, m, ${place}::bigint, ${quantity}::numeric FROM generate_series(${first}::bigint, ${first + count - 1}::bigint) m`;

  const arrival = await event('receive', 'R-LOTS');
  const raws = sublots - HUB_SUBLOTS + 1;
  const firstRaw = await marks(raw!, 'lot', 'RAW', raws, arrival), firstCom = await marks(com!, 'lot', 'COM', sublots * 2, arrival);
  await move(arrival, firstRaw, raws, '1000');
  await move(arrival, firstCom, sublots * 2, '1000');
  // Sub-lots: the first fifty are made of the hub, every other of a raw lot of its own.
  const cutting = await event('build', 'B-SUB');
  const firstSub = await marks(sub!, 'lot', 'SUB', sublots, cutting);
  const rawOf = (n: number) => (n < HUB_SUBLOTS ? firstRaw : firstRaw + n - HUB_SUBLOTS + 1);
  const transformations = (await sql<{ id: number }[]>`INSERT INTO transformation (event_id) SELECT ${cutting} FROM generate_series(1, ${sublots}) RETURNING id`).map((row) => row.id);
  await sql`INSERT INTO transformation_input SELECT * FROM unnest(${transformations}::bigint[], ${transformations.map((_, n) => rawOf(n))}::bigint[], ${transformations.map(() => '10')}::numeric[])`;
  await sql`INSERT INTO transformation_output SELECT t, m, 1000 FROM unnest(${transformations}::bigint[], ${transformations.map((_, n) => firstSub + n)}::bigint[]) AS x (t, m)`;
  await sql`INSERT INTO movement (event_id, mark_id, place_id, quantity) SELECT ${cutting}::bigint, m, ${place}::bigint, -10 FROM unnest(${transformations.map((_, n) => rawOf(n))}::bigint[]) m`;
  await move(cutting, firstSub, sublots, '1000');

  for (let n = 0; n < sublots; n++) {
    const received = await event('receive', `R-${n}`), built = await event('build', `B-${n}`);
    const firstPart = await marks(piece!, 'serial', `PART-${n}`, PER_SUBLOT, received), firstUnit = await marks(unit!, 'serial', `UNIT-${n}`, PER_SUBLOT, built);
    await move(received, firstPart, PER_SUBLOT, '1');
    await sql`
      WITH made AS (INSERT INTO transformation (event_id) SELECT ${built} FROM generate_series(1, ${PER_SUBLOT}) RETURNING id),
      numbered AS (SELECT id, row_number() OVER () - 1 AS n FROM made),
      outputs AS (INSERT INTO transformation_output (transformation_id, mark_id, quantity) SELECT id, ${firstUnit}::bigint + n, 1 FROM numbered)
      INSERT INTO transformation_input (transformation_id, mark_id, quantity)
        SELECT id, ${firstPart}::bigint + n, 1 FROM numbered
        UNION ALL SELECT id, ${firstSub + n}::bigint, 0.5 FROM numbered
        UNION ALL SELECT id, ${firstCom + 2 * n}::bigint, 0.25 FROM numbered
        UNION ALL SELECT id, ${firstCom + 2 * n + 1}::bigint, 0.125 FROM numbered`;
    await sql`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
        SELECT ${built}::bigint, ${firstPart}::bigint + i, ${place}::bigint, -1 FROM generate_series(0, ${PER_SUBLOT - 1}) i
        UNION ALL SELECT ${built}::bigint, ${firstUnit}::bigint + i, ${place}::bigint, 1 FROM generate_series(0, ${PER_SUBLOT - 1}) i
        UNION ALL SELECT ${built}::bigint, m, ${place}::bigint, -q * ${PER_SUBLOT}::numeric FROM (VALUES (${firstSub + n}::bigint, 0.5), (${firstCom + 2 * n}::bigint, 0.25), (${firstCom + 2 * n + 1}::bigint, 0.125)) AS v (m, q)`;
    const shipped = await event('ship', `S-${n}`);
    await move(shipped, firstUnit, PER_SUBLOT / 2, '-1');
  }
  await sql`ANALYZE`;
  return { links: sublots * (PER_SUBLOT * LINKS_PER_UNIT + 1), hub: firstRaw, small: firstRaw + 1, person, place, product: piece! };
}
