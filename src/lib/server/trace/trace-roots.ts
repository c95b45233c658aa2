import { isOnHand } from '../kernel/db/what-counts.ts';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { Problem } from '../kernel/problem.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { withUnit, type MarkRecordRow } from '../ledger/mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';

/** Most marks one trace begins with. */
export const MOST_ROOTS = 100_000;

/** Where a trace begins. Days are `YYYY-MM-DD`, instants RFC 3339; a part not given is open. */
export type StartingPoint =
  | { by: 'numbers'; numbers: string[]; product?: string }
  | { by: 'document'; document: string }
  | { by: 'partner'; partner: string; from?: string; to?: string }
  | { by: 'place'; place: string; from?: string; to?: string }
  | {
      by: 'product';
      product: string;
      first?: string;
      last?: string;
      madeFrom?: string;
      madeTo?: string;
    };

/**
 * What a starting point means. `open` are numbers that mean several things, and which; `unknown`
 * mean nothing; `amended` are called otherwise now.
 */
export interface FoundRoots {
  title: string;
  marks: MarkRecord[];
  count: number;
  ids: number[];
  open: { number: string; choices: { product: string; kind: string; id: number }[] }[];
  unknown: string[];
  amended: { number: string; now: string; product: string }[];
}

const LISTED = 200;

/**
 * Finds the marks a trace is to begin with. @throws Problem 404, 422 where nothing is named, or
 * more than a trace takes
 */
export async function findRoots(db: Db, start: StartingPoint): Promise<FoundRoots> {
  const found =
    start.by === 'numbers'
      ? await byNumbers(db, start.numbers, start.product)
      : { ...(await otherwise(db, start)), open: [], unknown: [], amended: [] };
  if (found.ids.length > MOST_ROOTS)
    throw new Problem(422, 'Too much to begin with', [
      {
        code: 'request.malformed',
        path: '',
        message: `That is ${found.ids.length} lots and serials; a trace begins with ${MOST_ROOTS} at the most. Take a shorter time or a smaller range.`
      }
    ]);
  const rows = await db<(MarkRecordRow & { unit: string })[]>`
    SELECT m.id, p.code AS product, p.unit, m.kind, m.number, l.number AS lot, m.supplier_number,
      m.expires_on, m.state,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
        ),
          0
      ) AS on_hand
    FROM unnest(${found.ids.slice(0, LISTED)}::bigint[]) WITH ORDINALITY AS w (id, at)
      JOIN mark m ON m.id = w.id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    ORDER BY w.at
  `;
  return { ...found, count: found.ids.length, marks: rows.map(withUnit) };
}

/**
 * Our numbers, supplier's numbers and numbers of before an amendment; one that stands for several
 * products is asked back.
 */
async function byNumbers(
  db: Db,
  given: readonly string[],
  product: string | undefined
): Promise<Omit<FoundRoots, 'marks' | 'count'>> {
  const texts = [
    ...new Map(
      given
        .map((text) => text.trim())
        .filter(Boolean)
        .map((text) => [numberKey(text), text])
    ).values()
  ];
  if (texts.length === 0)
    throw new Problem(422, 'No number is given', [
      {
        code: 'mark.missing',
        path: 'numbers',
        message: 'Type, scan or paste the numbers to begin with, one a row.'
      }
    ]);
  if (texts.length > MOST_ROOTS)
    throw new Problem(422, 'Too much to begin with', [
      {
        code: 'request.malformed',
        path: 'numbers',
        message: `${texts.length} numbers were given; ${MOST_ROOTS} are the most.`
      }
    ]);
  const keys = texts.filter((text) => readNumber(text).ok).map(numberKey);
  const rows = await db<
    { key: string; id: number; kind: string; product: string; now: string | null; rank: number }[]
  >`
    SELECT w.key, m.id, m.kind, p.code AS product, f.now, f.rank
    FROM unnest(${keys}::text[]) AS w (key)
      JOIN LATERAL (
        SELECT m.id, NULL AS now, 0 AS rank
        FROM mark m
        WHERE m.number_key = w.key
        UNION ALL
        SELECT m.id, NULL, 1
        FROM mark m
        WHERE upper(m.supplier_number) = w.key
        UNION ALL
        SELECT m.id, m.number::text, 2
        FROM mark_change c
          JOIN mark m ON m.id = c.mark_id
        WHERE c.field = 'number' AND upper(c.old_value) = w.key AND m.number_key <> w.key
      ) f ON true
      JOIN mark m ON m.id = f.id
      JOIN product p ON p.id = m.product_id
    WHERE ${product ?? null}::text IS NULL OR upper(p.code) = upper(${product ?? ''})
    ORDER BY f.rank, p.code, m.kind DESC
  `;
  const of = new Map<string, (typeof rows)[number][]>();
  for (const row of rows) {
    const list = of.get(row.key) ?? [];
    // A number of ours counts before a supplier's, and that before one of old; a mark found twice
    // is one.
    if (list.length > 0 && list[0]!.rank < row.rank) continue;
    if (!list.some((one) => one.id === row.id)) list.push(row);
    of.set(row.key, list);
  }
  const ids: number[] = [],
    open: FoundRoots['open'] = [],
    unknown: string[] = [],
    amended: FoundRoots['amended'] = [];
  for (const text of texts) {
    const hits = of.get(numberKey(text)) ?? [];
    if (hits.length === 0) unknown.push(shown(text));
    // Many lots share the supplier's one number: that is what one begins with, not a question.
    else if (
      hits.length > 1 &&
      hits[0]!.rank !== 1 &&
      new Set(hits.map((hit) => hit.product)).size > 1
    )
      open.push({
        number: text,
        choices: hits.map(({ product: code, kind, id }) => ({ product: code, kind, id }))
      });
    else
      for (const hit of hits) {
        ids.push(hit.id);
        if (hit.now !== null) amended.push({ number: text, now: hit.now, product: hit.product });
      }
  }
  return {
    title: texts.length === 1 ? texts[0]! : `${texts[0]} and ${texts.length - 1} more`,
    ids: [...new Set(ids)],
    open,
    unknown,
    amended
  };
}

async function otherwise(
  db: Db,
  start: Exclude<StartingPoint, { by: 'numbers' }>
): Promise<{ title: string; ids: number[] }> {
  const ids = async (rows: PromiseLike<readonly { id: number }[]>) =>
    (await rows).map((row) => row.id);
  const none = (message: string, path: string): never => {
    throw new Problem(404, 'There is nothing to begin with', [
      { code: 'mark.unknown', path, message }
    ]);
  };
  const window = (column: ReturnType<Db>, from: string | undefined, to: string | undefined) =>
    db`
      (${from ?? null}::timestamptz IS NULL OR ${column} >= ${from ?? null}::timestamptz)
        AND (
          ${to ?? null}::timestamptz IS NULL
            OR ${column} < ${/^\d{4}-\d{2}-\d{2}$/.test(to ?? '') ? db`${to!}::date + 1` : db`${to ?? null}::timestamptz`}
        )
    `;
  const said = (from: string | undefined, to: string | undefined) =>
    from || to ? `${from ? ` from ${from}` : ''}${to ? ` to ${to}` : ''}` : '';
  if (start.by === 'document') {
    const key = numberKey(start.document);
    // What came into being or came in by it; where nothing did, what it moved.
    const rows = await db<{ id: number; into: boolean }[]>`
      SELECT v.mark_id AS id, bool_or(v.quantity > 0) AS into
      FROM event e
        JOIN movement v ON v.event_id = e.id
      WHERE upper(e.document) = ${key} OR upper(e.reference) = ${key}
      GROUP BY v.mark_id
      ORDER BY v.mark_id
      LIMIT ${MOST_ROOTS + 1}
    `;
    if (rows.length === 0)
      none(`Nothing was booked under ${shown(start.document)}. Check the number.`, 'document');
    const into = rows.filter((row) => row.into);
    return {
      title: `document ${start.document}`,
      ids: (into.length > 0 ? into : rows).map((row) => row.id)
    };
  }
  if (start.by === 'partner') {
    const [partner] = await db<
      { id: number; name: string }[]
    >`SELECT id, name FROM partner WHERE upper(code) = ${numberKey(start.partner)}`;
    if (!partner)
      return none(`There is no partner ${shown(start.partner)}. Check the code.`, 'partner');
    const found = await ids(
      db<{ id: number }[]>`
        SELECT DISTINCT v.mark_id AS id
        FROM event e
          JOIN movement v ON v.event_id = e.id
        WHERE e.partner_id = ${partner.id}
          AND e.kind IN ('receive', 'ship', 'return')
          AND NOT is_taken_back(e.id, v.mark_id)
          AND ${window(db`e.happened_at`, start.from, start.to)}
        ORDER BY 1
        LIMIT ${MOST_ROOTS + 1}
      `
    );
    if (found.length === 0)
      none(`Nothing came from or went to ${partner.name}${said(start.from, start.to)}.`, 'partner');
    return { title: `${partner.name}${said(start.from, start.to)}`, ids: found };
  }
  if (start.by === 'place') {
    const [place] = await db<{ id: number; name: string; station: boolean }[]>`
      SELECT id, name, false AS station
      FROM place
      WHERE upper(code) = ${numberKey(start.place)}
      UNION ALL
      SELECT id, name, true
      FROM station
      WHERE upper(code) = ${numberKey(start.place)}
      LIMIT 1
    `;
    if (!place)
      return none(`There is no place or station ${shown(start.place)}. Check the code.`, 'place');
    const found = await ids(
      place.station
        ? db<{ id: number }[]>`
          SELECT DISTINCT m.id
          FROM station_step s
            JOIN event e ON e.id = s.event_id
            JOIN planned_output n ON n.id = s.unit_id
            JOIN mark m ON m.product_id = n.product_id
              AND m.number_key = n.number_key
              AND m.kind <> 'bulk'
          WHERE s.station_id = ${place.id} AND ${window(db`e.happened_at`, start.from, start.to)}
          ORDER BY 1
          LIMIT ${MOST_ROOTS + 1}
        `
        : db<{ id: number }[]>`
          SELECT DISTINCT v.mark_id AS id
          FROM movement v
            JOIN event e ON e.id = v.event_id
          WHERE v.place_id = ${place.id}
            AND v.quantity > 0
            AND ${window(db`e.happened_at`, start.from, start.to)}
          ORDER BY 1
          LIMIT ${MOST_ROOTS + 1}
        `
    );
    if (found.length === 0)
      none(`Nothing was at ${place.name}${said(start.from, start.to)}.`, 'place');
    return { title: `${place.name}${said(start.from, start.to)}`, ids: found };
  }
  const [product] = await db<
    { id: number; code: string }[]
  >`SELECT id, code FROM product WHERE upper(code) = ${numberKey(start.product)}`;
  if (!product)
    return none(`There is no product ${shown(start.product)}. Check the code.`, 'product');
  const found = await ids(db<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN event e ON e.id = m.birth_event
    WHERE m.product_id = ${product.id}
      AND (
        ${start.first ?? null}::text IS NULL
          OR m.number_key >= upper(${start.first ?? ''}) COLLATE "C"
      )
      AND (
        ${start.last ?? null}::text IS NULL
          OR m.number_key <= upper(${start.last ?? ''}) COLLATE "C"
      )
      AND ${window(db`e.happened_at`, start.madeFrom, start.madeTo)}
    ORDER BY m.number_key
    LIMIT ${MOST_ROOTS + 1}
  `);
  const range =
    start.first || start.last
      ? ` ${start.first ?? 'the first'} to ${start.last ?? 'the last'}`
      : '';
  if (found.length === 0)
    none(
      `No ${product.code}${range} was received or made${said(start.madeFrom, start.madeTo)}.`,
      'product'
    );
  return { title: `${product.code}${range}${said(start.madeFrom, start.madeTo)}`, ids: found };
}

/** Who only reads may keep sets too, so that their addresses last; so many a day. */
const MOST_SETS_A_DAY = 500;

/**
 * Keeps a set of marks to be traced together, so that its address means the same for ever. The same
 * set of the same person is kept once.
 * @throws Problem 429
 */
export async function keepSet(
  sql: Sql,
  actor: Actor,
  title: string,
  ids: readonly number[]
): Promise<number> {
  const [row] = await sql<{ id: number | null }[]>`
    WITH mine AS (
      SELECT id, title, marks FROM trace_set
      WHERE made_by = ${actor.personId} AND made_at > now() - interval '1 day'
    ),
    same AS (
      SELECT min(id) AS id
      FROM mine
      WHERE title = ${title.slice(0, 300)} AND marks = ${ids as number[]}::bigint[]
    ),
    made AS (
      INSERT INTO trace_set (title, marks, made_by)
      SELECT ${title.slice(0, 300)}, ${ids as number[]}::bigint[], ${actor.personId}
      WHERE (SELECT id FROM same) IS NULL
        AND (SELECT count(*) FROM mine) < ${MOST_SETS_A_DAY}
      RETURNING id
    )
    SELECT coalesce((SELECT id FROM same), (SELECT id FROM made)) AS id
  `;
  if (row!.id !== null) return row!.id;
  const message = `You have kept ${MOST_SETS_A_DAY} starting points today. Use one of them, or go on tomorrow.`;
  throw new Problem(429, 'Too many starting points', [
    { code: 'request.too-large', path: '', message }
  ]);
}

/** A kept set; null where there is none. */
export async function readSet(
  db: Db,
  id: number
): Promise<{ title: string; marks: number[] } | null> {
  const [row] = await db<
    { title: string; marks: string[] }[]
  >`SELECT title, marks FROM trace_set WHERE id = ${id}`;
  return row ? { title: row.title, marks: row.marks.map(Number) } : null;
}
