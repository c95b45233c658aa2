import type { MarkKind, MarkState } from '../../../core/catalogue/marking.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import type { Db } from '../../kernel/db/client.ts';
import { dayIsOver } from '../../kernel/db/days.ts';
import { expiryOf, isFreePlace, stateOf } from '../../kernel/db/what-counts.ts';
import { holdsText, stockHolding } from '../holds-text.ts';
import { today } from '../../kernel/clock.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import type { DeskAsked } from './asked.ts';

/** A lot, serial or unnumbered stock at a place. */
export interface DeskRow {
  id: number;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  product: string;
  name: string;
  unit: string;
  place: string;
  placeName: string;
  site: string;
  quantity: string;
  /** What of it may be used, promised or sent; of a past day nobody knows. */
  free: string | null;
  /** What of the mark is promised, wherever it lies. */
  promised: string | null;
  state: MarkState;
  expires: string | null;
  /** The day it was first booked. */
  since: string;
  quarantine: boolean;
  underWay: boolean;
}

export interface Desk {
  rows: DeskRow[];
  count: number;
  /** What they come to by unit of measure: unlike measures are not added up. */
  sums: { unit: string; quantity: string }[];
}

/** Narrowings that ask what is computed of a row; all others are answered by what lies there. */
const COMPUTED: ReadonlySet<string | undefined> = new Set(['free', 'promised', 'held', 'expired']);

const isPast = ({ day }: DeskAsked): boolean => day !== undefined && day < today();

/**
 * Stock as a store keeper asks for it, mark by mark and place by place: the first rows in the order
 * asked for, and how many there are.
 */
export async function readDesk(db: Db, asked: DeskAsked, most: number): Promise<Desk> {
  const isPlain = !isPast(asked) && !COMPUTED.has(asked.only);
  const [rows, sums] = await Promise.all([
    readRows(db, asked, most, isPlain),
    isPlain ? sumsOfStock(db, asked) : sumsOfRows(db, asked)
  ]);
  return {
    rows: rows.map((row) => ({
      ...row,
      quantity: trimZeros(row.quantity),
      free: row.free && trimZeros(row.free),
      promised: row.promised && trimZeros(row.promised)
    })),
    count: sums.reduce((sum, one) => sum + one.rows, 0),
    sums: sums.map(({ unit, quantity }) => ({ unit, quantity: trimZeros(quantity) }))
  };
}

/** Where the order is by what lies there, what else is shown is computed for the first rows alone. */
function readRows(db: Db, asked: DeskAsked, most: number, isPlain: boolean): Promise<DeskRow[]> {
  const picked = isPlain && asked.sort !== 'free' ? pickFirst(db, asked, most) : undefined;
  return db<DeskRow[]>`
    SELECT *
    FROM (${fromAsked(db, asked, picked)}) r
    ORDER BY ${orderOf(db, asked)}, r.product, r.lot NULLS FIRST, r.number, r.place
    LIMIT ${most}
  `;
}

interface SumOfUnit {
  unit: string;
  quantity: string;
  rows: number;
}

const sumsOfRows = (db: Db, asked: DeskAsked): Promise<SumOfUnit[]> => db`
  SELECT r.unit, sum(r.quantity) AS quantity, count(*)::int AS rows
  FROM (${fromAsked(db, asked)}) r
  GROUP BY r.unit
  ORDER BY count(*) DESC, r.unit
`;

/** The same where only stock itself is asked: added up by product first, from an index alone. */
const sumsOfStock = (db: Db, asked: DeskAsked): Promise<SumOfUnit[]> => db`
  SELECT p.unit, sum(x.quantity) AS quantity, sum(x.rows)::int AS rows
  FROM (
    SELECT s.product_id, sum(s.quantity) AS quantity, count(*) AS rows
    FROM ${stockAsked(db, asked)} s
    WHERE ${liesThere(db, asked)}
    GROUP BY s.product_id
  ) x
    JOIN product p ON p.id = x.product_id
  GROUP BY p.unit
  ORDER BY sum(x.rows) DESC, p.unit
`;

const stockAsked = (db: Db, { q }: DeskAsked) => (q ? stockHolding(db, q) : db`stock`);

/** Whether stock (s) is asked for, by its own columns alone. */
function liesThere(db: Db, { only, product, place, site }: DeskAsked) {
  const transit = db`ARRAY(SELECT id FROM place WHERE kind = 'transit')`;
  const places = (where: ReturnType<Db>) =>
    db`ARRAY(SELECT c.id FROM place c JOIN site t ON t.id = c.site_id WHERE ${where})`;
  const products = (code: string) =>
    db`ARRAY(SELECT id FROM product WHERE upper(code) = ${numberKey(code)})`;
  return db`
    s.quantity ${only === 'empty' ? db`= 0` : db`> 0`}
      AND ${only === 'under way' ? db`` : db`NOT`} s.place_id = ANY(${transit})
      ${product ? db`AND s.product_id = ANY(${products(product)})` : db``}
      ${place ? db`AND s.place_id = ANY(${places(db`upper(c.code) = ${numberKey(place)}`)})` : db``}
      ${site ? db`AND s.place_id = ANY(${places(db`upper(t.code) = ${numberKey(site)}`)})` : db``}
  `;
}

/**
 * The first rows of stock in the order asked for. By product they are taken product by product until
 * there are enough; any other order has to look at all.
 */
function pickFirst(db: Db, asked: DeskAsked, most: number): ReturnType<Db> {
  const within = db`r.lot NULLS FIRST, r.number, r.place`;
  const keyed = (these: ReturnType<Db>) => db`
    SELECT s.mark_id, s.place_id, s.quantity, p.code AS product, m.number, l.number AS lot,
      c.code AS place, ${expiryOf(db)} AS expires, ${stateOf(db)} AS state,
      (SELECT e.happened_at::date FROM event e WHERE e.id = m.birth_event) AS since
    FROM ${stockAsked(db, asked)} s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = s.product_id
      JOIN place c ON c.id = s.place_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE ${liesThere(db, asked)} ${these}
  `;
  if (asked.sort !== 'product' || asked.q)
    return db`
      SELECT mark_id, place_id, quantity
      FROM (${keyed(db``)}) r
      ORDER BY ${orderOf(db, asked)}, r.product, ${within}
      LIMIT ${most}
    `;
  return db`
    SELECT r.mark_id, r.place_id, r.quantity
    FROM (SELECT id FROM product ORDER BY code ${asked.down ? db`DESC` : db``}) o
      CROSS JOIN LATERAL (
        SELECT *
        FROM (${keyed(db`AND s.product_id = o.id`)}) r
        ORDER BY ${within}
        LIMIT ${most}
      ) r
    LIMIT ${most}
  `;
}

/**
 * All rows that are asked for, as one statement.
 * @param picked the rows of stock, where they are chosen already
 */
function fromAsked(db: Db, asked: DeskAsked, picked?: ReturnType<Db>) {
  const day = asked.day ?? today();
  const past = isPast(asked);
  const until: ReturnType<Db> = dayIsOver(db, day);
  const marks = past ? marksThen(db, until) : db`mark`;
  return db`
    SELECT w.id, w.kind, w.number, w.lot, w.product, w.name, w.unit, w.place, w."placeName",
      w.site, w.quantity, w.since, w.quarantine, w."underWay", w.state, w.expires,
      ${past ? db`NULL::numeric` : db`w.promised`} AS promised,
      ${past ? db`NULL::numeric` : db`w.free`} AS free
    FROM (
      SELECT v.*,
        CASE WHEN v.quarantine OR v."underWay" OR v.state <> 'usable'
            OR coalesce(v.expires, 'infinity') < ${day}
          THEN 0 ELSE greatest(least(v.quantity, v."mayGo" - v.promised), 0) END AS free
      FROM (
        SELECT m.id, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
          c.code AS place, c.name AS "placeName", t.code AS site, s.quantity,
          (SELECT e.happened_at::date FROM event e WHERE e.id = m.birth_event) AS since,
          c.kind = 'quarantine' AS quarantine, c.kind = 'transit' AS "underWay",
          ${stateOf(db)} AS state, ${expiryOf(db)} AS expires,
          ${past ? db`0::numeric` : promisedOf(db, day)} AS promised,
          ${past ? db`0::numeric` : mayGoOf(db)} AS "mayGo"
        FROM (${picked ?? lying(db, asked, past ? until : null)}) s
          JOIN ${marks} m ON m.id = s.mark_id
          JOIN product p ON p.id = m.product_id
          JOIN place c ON c.id = s.place_id
          JOIN site t ON t.id = c.site_id
          LEFT JOIN ${marks} l ON l.id = m.lot_id
        WHERE true ${past ? narrowed(db, asked) : db``}
      ) v
    ) w
    WHERE true ${onlyThese(db, asked, day)}
  `;
}

/** Marks as they were before an instant: a field says what its first change since says it was. */
function marksThen(db: Db, until: ReturnType<Db>) {
  const changed = (field: string) => db`
    (
      SELECT c.id, c.old_value
      FROM mark_change c
        JOIN event e ON e.id = c.event_id
      WHERE c.mark_id = x.id AND c.field = ${field} AND e.happened_at >= ${until}
      ORDER BY c.id
      LIMIT 1
    )
  `;
  return db`
    (
      SELECT x.id, x.product_id, x.kind, x.number, x.number_key, x.lot_id, x.supplier_number,
        x.birth_event,
        CASE WHEN s.id IS NULL THEN x.state ELSE s.old_value END AS state,
        CASE WHEN d.id IS NULL THEN x.expires_on ELSE d.old_value::date END AS expires_on
      FROM mark x
        LEFT JOIN LATERAL ${changed('state')} s ON true
        LEFT JOIN LATERAL ${changed('expires_on')} d ON true
    )
  `;
}

/** Stock now, or as it stood before an instant; what is empty only where that is asked for. */
const lying = (db: Db, asked: DeskAsked, until: ReturnType<Db> | null) =>
  until === null
    ? db`
      SELECT s.mark_id, s.place_id, s.quantity
      FROM ${stockAsked(db, asked)} s
      WHERE ${liesThere(db, asked)}
    `
    : db`
      SELECT v.mark_id, v.place_id, sum(v.quantity) AS quantity
      FROM movement v
        JOIN event e ON e.id = v.event_id
      WHERE e.happened_at < ${until}
      GROUP BY v.mark_id, v.place_id
      HAVING sum(v.quantity) ${asked.only === 'empty' ? db`= 0` : db`> 0`}
    `;

const promisedOf = (db: Db, day: string) => db`
  coalesce(
    (
      SELECT sum(r.quantity)
      FROM reservation r
        JOIN trade_order o ON o.id = r.order_id
      WHERE r.mark_id = m.id AND o.closed_at IS NULL AND coalesce(r.until, 'infinity') >= ${day}
    ),
    0
  )
`;

/** How much of the mark lies where it may be taken from: of that what is promised is taken off. */
const mayGoOf = (db: Db) => db`
  coalesce(
    (
      SELECT sum(a.quantity)
      FROM stock a
      WHERE a.mark_id = m.id AND ${isFreePlace(db, db`a.place_id`)}
    ),
    0
  )
`;

function narrowed(db: Db, { q, product, place, site, only }: DeskAsked) {
  return db`
    ${only === 'under way' ? db`AND c.kind = 'transit'` : db`AND c.kind <> 'transit'`}
    ${product ? db`AND upper(p.code) = ${numberKey(product)}` : db``}
    ${place ? db`AND upper(c.code) = ${numberKey(place)}` : db``}
    ${site ? db`AND upper(t.code) = ${numberKey(site)}` : db``}
    ${q ? db`AND ${holdsText(db, q)}` : db``}
  `;
}

function onlyThese(db: Db, { only }: DeskAsked, day: string) {
  if (only === 'free') return db`AND w.free > 0`;
  if (only === 'promised') return db`AND w.promised > 0`;
  if (only === 'held') return db`AND (w.state <> 'usable' OR w.quarantine)`;
  if (only === 'expired') return db`AND w.expires < ${day}`;
  return db``;
}

function orderOf(db: Db, { sort, down }: DeskAsked) {
  const by = {
    product: db`r.product`,
    number: db`r.number`,
    place: db`r.place`,
    quantity: db`r.quantity`,
    free: db`r.free`,
    expires: db`r.expires`,
    since: db`r.since`,
    state: db`r.state`
  }[sort];
  return down ? db`${by} DESC NULLS LAST` : db`${by} NULLS LAST`;
}
