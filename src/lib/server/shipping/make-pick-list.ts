import type { Note } from '../../core/faults/fault.ts';
import {
  formatQuantity,
  parseQuantity,
  quantity,
  total,
  type Quantity
} from '../../core/quantity/quantity.ts';
import {
  layStops,
  type LaidStop,
  type LyingAt,
  type ToFetch
} from '../../core/shipping/lay-stops.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { MOST_ROWS } from '../kernel/fields.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { lockOpenOrder } from '../orders/lock-order.ts';
import type { PickRecord } from '../../core/shipping/pick-record.ts';
import { readPicks } from './picks.ts';
import { promiseIn, type HowPromised } from './promises.ts';

export interface GivenPick {
  line: number;
  lot?: string;
  serial?: string;
  quantity?: string;
}

interface OrderLine {
  line: number;
  productId: number;
  code: string;
  unit: string;
  serials: boolean;
  marked: boolean;
  /** How much the order asks for, as a decimal string. */
  ordered: string;
  /** The one mark of a product that is kept by quantity only. */
  bulk: number | null;
}

/**
 * Makes the pick list of an order anew: what is named is promised to it and gets a place to fetch
 * it from; a line that names no serial takes any that is free, when it is scanned, and goods without
 * number are fetched by their quantity. What is picked already stays.
 * @throws Problem 403, 404, 409 for a closed order, 422 with everything that cannot be picked
 */
export async function makePickList(
  sql: Sql,
  actor: Actor,
  number: string,
  given: readonly GivenPick[],
  how: HowPromised
): Promise<{ picks: PickRecord[]; notes: Note[] }> {
  requireRight(actor, 'promise');
  return (await sql.begin(async (tx) => {
    const order = await lockOpenOrder(tx, 'sales', number, 'something is picked for it');
    const lines = await readLines(tx, order.id);
    refuse(given.flatMap((one, index) => faultOf(one, `lines[${index}]`, lines) ?? []));
    refuse(tooManyScans(given, lines));
    const { notes } = await promiseIn(tx, actor, order, given.filter(isNamed), how);
    await tx`DELETE FROM pick WHERE order_id = ${order.id} AND picked = 0`;
    await tx`UPDATE pick SET quantity = picked WHERE order_id = ${order.id} AND picked < quantity`;
    const stops = await laidStops(tx, order.id, given, lines);
    const free = given.flatMap((one) => anySerials(one, lines));
    await writeStops(tx, order.id, [...stops, ...free], lines);
    return { picks: await readPicks(tx, order.id, how.day), notes };
  })) as { picks: PickRecord[]; notes: Note[] };
}

const isNamed = (one: GivenPick): boolean => one.lot !== undefined || one.serial !== undefined;

async function readLines(tx: Tx, orderId: number): Promise<Map<number, OrderLine>> {
  const rows = await tx<OrderLine[]>`
    SELECT l.line, p.id AS "productId", p.code, p.unit, p.marking LIKE 'serial%' AS serials,
      p.marking <> 'none' AS marked, l.quantity AS ordered,
      CASE
        WHEN p.marking = 'none'
          THEN (SELECT m.id FROM mark m WHERE m.product_id = p.id AND m.kind = 'bulk')
      END AS bulk
    FROM order_line l
      JOIN product p ON p.id = l.product_id
    WHERE l.order_id = ${orderId}
  `;
  return new Map(rows.map((row) => [row.line, row]));
}

function faultOf(
  one: GivenPick,
  path: string,
  lines: ReadonlyMap<number, OrderLine>
): FormError | null {
  const line = lines.get(one.line);
  if (!line) return { code: 'mark.unknown', path, message: `The order has no line ${one.line}.` };
  if (isNamed(one)) return null;
  const { code } = line;
  if (line.marked && !line.serials) {
    const message = `${code} is fetched by lot. Name which lot.`;
    return { code: 'mark.missing', path, number: code, message };
  }
  const message = wrongAmount(parseQuantity(one.quantity ?? ''), line);
  return message === null ? null : { code: 'quantity.mismatch', path, number: code, message };
}

/** What is wrong with how much is to be fetched, in words; null where nothing is. */
function wrongAmount(
  amount: Quantity | null,
  { code, serials, ordered }: OrderLine
): string | null {
  if (!amount?.gt(0)) return `Say how many of ${code} are to be fetched.`;
  if (!serials) return null;
  if (!amount.isInteger())
    return `${code} has serials, so whole units are fetched; ${formatQuantity(amount)} is no whole number.`;
  if (amount.gt(ordered))
    return `The order asks for ${formatQuantity(quantity(ordered))} of ${code}. Fetch no more, or change the order.`;
  return null;
}

function refuse(errors: FormError[]): void {
  if (errors.length > 0)
    throw new Problem(422, 'This cannot be picked', errors, 'Nothing was changed.');
}

/** Stops of what is promised, and of goods without number; what is picked already is left out. */
async function laidStops(
  tx: Tx,
  orderId: number,
  given: readonly GivenPick[],
  lines: ReadonlyMap<number, OrderLine>
): Promise<LaidStop[]> {
  const wanted = [
    ...(await promisedToFetch(tx, orderId)),
    ...(await unnumberedToFetch(tx, orderId, given, lines))
  ];
  const lying = await tx<LyingAt[]>`
    SELECT s.mark_id AS mark, s.place_id AS "placeId", c.code AS place,
      greatest(s.quantity - coalesce(k.picked, 0), 0) AS here
    FROM stock s
      JOIN place c ON c.id = s.place_id AND c.kind NOT IN ('quarantine', 'transit')
      -- what somebody fetched there already, for this order or another, lies there no more
      LEFT JOIN LATERAL (
        SELECT sum(p.picked) AS picked
        FROM pick p
        WHERE p.mark_id = s.mark_id AND p.place_id = s.place_id
      ) k ON true
    WHERE s.mark_id = ANY(${wanted.map((one) => one.mark)}) AND s.quantity > 0
  `;
  const stops = layStops(wanted, lying);
  refuse(shortOf(given, lines, wanted, lying));
  return stops;
}

const promisedToFetch = (tx: Tx, orderId: number) => tx<ToFetch[]>`
  SELECT r.line, r.mark_id AS mark, r.quantity - coalesce(sum(k.quantity), 0) AS wanted
  FROM reservation r
    LEFT JOIN pick k ON k.order_id = r.order_id AND k.line = r.line AND k.mark_id = r.mark_id
  WHERE r.order_id = ${orderId}
  GROUP BY r.id
  ORDER BY r.line, r.mark_id
`;

async function unnumberedToFetch(
  tx: Tx,
  orderId: number,
  given: readonly GivenPick[],
  lines: ReadonlyMap<number, OrderLine>
): Promise<ToFetch[]> {
  const asked = given.filter((one) => !lines.get(one.line)!.marked);
  if (asked.length === 0) return [];
  const picked = await tx<{ line: number; quantity: string }[]>`
    SELECT line, sum(quantity) AS quantity
    FROM pick
    WHERE order_id = ${orderId}
    GROUP BY line
  `;
  const pickedOf = new Map(picked.map((row) => [row.line, row.quantity]));
  return asked.flatMap(({ line, quantity: wanted }) => {
    const { bulk } = lines.get(line)!;
    const left = quantity(wanted!).minus(pickedOf.get(line) ?? '0');
    return bulk === null || left.lte(0) ? [] : [{ line, mark: bulk, wanted: left.toFixed() }];
  });
}

/** Goods without number are promised to nobody: that enough of them lies here is seen now. */
function shortOf(
  given: readonly GivenPick[],
  lines: ReadonlyMap<number, OrderLine>,
  wanted: readonly ToFetch[],
  lying: readonly LyingAt[]
): FormError[] {
  return given.flatMap((one, index) => {
    const { marked, bulk, code, unit } = lines.get(one.line)!;
    if (marked) return [];
    const asked = total(
      wanted.filter((row) => row.mark === bulk).map((row) => quantity(row.wanted))
    );
    const here = total(lying.filter((row) => row.mark === bulk).map((row) => quantity(row.here)));
    if (bulk !== null && here.gte(asked)) return [];
    const message = `${formatQuantity(here)} ${unit} of ${code} lie here, and ${formatQuantity(asked)} are to be fetched. Fetch less.`;
    return [{ code: 'stock.short', path: `lines[${index}]`, number: code, message }];
  });
}

/** A stop for each serial is written: a mistyped order must not make a billion of them. */
function tooManyScans(
  given: readonly GivenPick[],
  lines: ReadonlyMap<number, OrderLine>
): FormError[] {
  const free = given.filter((one) => !isNamed(one) && lines.get(one.line)!.serials);
  const scans = total(free.map((one) => quantity(one.quantity!)));
  if (scans.lte(MOST_ROWS)) return [];
  const message = `${formatQuantity(scans)} single scans are more than one list takes: ${MOST_ROWS} at most. Fetch them in parts.`;
  return [{ code: 'quantity.mismatch', path: 'lines', message }];
}

/** Any serial is one scan each: a stop for each of them. */
function anySerials(one: GivenPick, lines: ReadonlyMap<number, OrderLine>): FreeStop[] {
  if (isNamed(one) || !lines.get(one.line)!.serials) return [];
  const stop = { line: one.line, mark: null, placeId: null, quantity: quantity('1') };
  return Array.from({ length: Number(one.quantity) }, () => stop);
}

interface FreeStop extends Omit<LaidStop, 'mark' | 'placeId'> {
  mark: null;
  placeId: null;
}

async function writeStops(
  tx: Tx,
  orderId: number,
  stops: readonly (LaidStop | FreeStop)[],
  lines: ReadonlyMap<number, OrderLine>
): Promise<void> {
  if (stops.length === 0) return;
  await tx`
    INSERT INTO pick (order_id, line, product_id, mark_id, place_id, quantity)
    SELECT ${orderId}::bigint, *
    FROM unnest(
      ${stops.map((stop) => stop.line)}::int[],
        ${stops.map((stop) => lines.get(stop.line)!.productId)}::bigint[],
        ${stops.map((stop) => stop.mark)}::bigint[], ${stops.map((stop) => stop.placeId)}::bigint[],
        ${stops.map((stop) => stop.quantity.toFixed())}::numeric[]
    )
  `;
}
