import { dayOf, HOME_ZONE } from '../../core/calendar/day.ts';
import type { NamedMarks, Wants } from '../../core/ledger/request.ts';
import {
  codeKey,
  indexMarks,
  markGroup,
  markKey,
  type MarkIndex,
  type KnownMark,
  type KnownOrder,
  type KnownPartner,
  type KnownPlace,
  type KnownProduct,
  type KnownUnit,
  type PartInside,
  type Snapshot
} from '../../core/ledger/snapshot.ts';
import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { FactValues } from '../../core/catalogue/facts.ts';
import { keyOfNumber, numberKey } from '../../core/numbers/number.ts';
import { ONE, quantity, type Quantity } from '../../core/quantity/quantity.ts';
import { findMark } from '../../core/ledger/lookup.ts';
import { groupBy } from '../../core/group-by.ts';
import { billById, billsInForce } from '../catalogue/bills.ts';
import { askable, distinctCodes } from './named-codes.ts';
import { asProducts, productsNamed, readProducts, type ProductRow } from './read-products.ts';
import { readEvent } from './read-event.ts';
import { readGone } from './read-gone.ts';
import { readLaterMovements } from './read-later.ts';
import { readOpened } from './read-opened.ts';
import { readRecalled } from './read-recalled.ts';
import { readSales, readUnits } from './read-units.ts';
import { readJudged, type Judged } from './read-judged.ts';
import { readWishesOf } from './read-wishes.ts';
import { readGrantedBefore } from '../people/approvals.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { isFreePlace } from '../kernel/db/what-counts.ts';
import { inColumns, type Columns } from '../kernel/db/in-columns.ts';
import { together } from '../kernel/db/together.ts';

const NONE: ReadonlyMap<number, never> = new Map<number, never>();
const NOT_JUDGED: Judged = { offSpec: new Map(), untested: new Set() };

interface MarkRow {
  id: number;
  product_id: number;
  kind: MarkKind;
  number: string | null;
  lot_id: number | null;
  state: KnownMark['state'];
  expires_on: string | null;
  made_on: string | null;
  retest_on: string | null;
  supplier_number: string | null;
  facts: FactValues | null;
  born_on: string;
  unmade: boolean;
}
/** Which mark it is, and no more. */
const WHICH = ['id', 'product_id', 'kind', 'number', 'lot_id'] as const;
const MARK = [
  ...WHICH,
  'state',
  'expires_on',
  'made_on',
  'retest_on',
  'supplier_number',
  'facts',
  'born_on',
  'unmade'
] as const;
const MARK_COLUMNS = `
  m.id, m.product_id, m.kind, m.number, m.lot_id, m.state, m.expires_on, m.made_on, m.retest_on,
  m.supplier_number, nullif(m.facts, '{}') AS facts, e.happened_at::date AS born_on,
  (
    EXISTS (SELECT FROM event b WHERE b.reverses_id = m.birth_event) AND never_came(m.id)
      OR EXISTS (
        SELECT
        FROM transformation_output o
          JOIN transformation_reversed x USING (transformation_id)
        WHERE o.mark_id = m.id
      )
  ) AS unmade
`;

/**
 * Reads what a decision needs, in the booking's own transaction, in a fixed number of statements.
 * Locks the order first and then, for bookings that draw, the stock rows in (mark, place) order:
 * every booking locks in the same order, so two that meet wait for each other. State and dates are
 * read after the lock, as a hold locks the same rows.
 * @param at when it happened; null where that is now, which is known only behind the lock
 * @param onlyLooking for a verdict on an unfinished sheet: takes no locks
 * @param behindTheLock what is to be asked once the stock is locked, in the same breath
 */
export async function readSnapshot(
  tx: Tx,
  wants: Wants,
  at: Date | null,
  onlyLooking = false,
  behindTheLock: () => Promise<unknown> = async () => {}
): Promise<Snapshot> {
  const lock = wants.draws && !onlyLooking;
  // Sent one behind the other without waiting: what does not depend on another answer costs no
  // round trip of its own. The order is locked first.
  const [order, { products, partners, places: named }] = await Promise.all([
    wants.order && askable(wants.order.number)
      ? readOrder(tx, wants.order.kind, wants.order.number, !onlyLooking)
      : null,
    readNamedThings(tx, wants)
  ]);
  const event = wants.event === undefined ? null : await readEvent(tx, wants.event, lock);
  const packages = [...(wants.units ?? []), ...(event?.packages ?? [])];
  const [namedMarks, drawnLots, units] = await Promise.all([
    findMarks(tx, products, wants.marks, lock),
    wants.lotsOf?.length ? lotsOnHand(tx, wants.lotsOf) : [],
    packages.length > 0 ? readUnits(tx, packages, lock) : new Map<string, KnownUnit>()
  ]);
  const byNumber = indexMarks(wants.draws || wants.asBuilt ? namedMarks : []);
  const hosts = [
    ...(event?.hosts ?? []),
    ...(wants.asBuilt ? idsNamed(products, wants.asBuilt.hosts, byNumber) : [])
  ];
  const asBuilt = await readAsBuilt(tx, hosts, wants.asBuilt?.ever ?? false);
  const more = [
    ...new Set([
      ...drawnLots,
      ...[...units.values()].flatMap((unit) => [...unit.contents.keys()]),
      ...(event?.marks ?? []),
      ...(event?.hosts ?? []),
      ...[...asBuilt.values()].flatMap((parts) => parts.map((part) => part.mark))
    ])
  ];
  const known = new Set(namedMarks.map((mark) => mark.id));
  const others = more.filter((id) => !known.has(id));
  const found =
    others.length === 0 ? namedMarks : [...namedMarks, ...(await readMarks(tx, others))];
  const ids = found.map((mark) => mark.id);
  const read = new Set(ids);
  const lotIds = [...new Set(found.flatMap((mark) => mark.lotId ?? []))].filter(
    (id) => !read.has(id)
  );
  const allProducts = await readProductsOf(tx, products, found);
  const customer = wants.specsFor ?? (wants.packed ? order?.partner : undefined) ?? null;
  const [
    placesThere,
    elsewhereOf,
    namedOutputs,
    bills,
    judged,
    costs,
    currency,
    wishes,
    granted,
    sales,
    recalled,
    opened
  ] = await Promise.all([
    // Of ten thousand marks it is cheaper to read the few places once their stock is known.
    readPlacesOf(tx, ids.length > 500 ? [] : ids, event?.placeIds ?? []),
    wants.draws ? readElsewhere(tx, products, wants.marks, byNumber) : new Map(),
    wants.outputs ? readNamed(tx, products, wants.outputs) : new Map(),
    wants.outputs
      ? billsInForce(tx, ownBilled(wants.outputs, order), dayOf(at ?? new Date(), HOME_ZONE))
      : [],
    customer === null ? NOT_JUDGED : readJudged(tx, found, allProducts, customer),
    wants.costs ? readCosts(tx, ids) : new Map(),
    wants.costs ? readCurrency(tx) : null,
    customer === null ? new Map() : readWishesOf(tx, customer, allProducts),
    wants.packed && order ? readGrantedBefore(tx, order.id) : [],
    wants.sales ? readSales(tx, ids) : new Map(),
    wants.recalled ? readRecalled(tx, ids) : new Set<number>(),
    wants.opened ? readOpened(tx, ids) : new Map<number, never[]>()
  ]);
  // From here on others wait for this stock: only what they too change is read behind the lock,
  // sent with it in one breath.
  const [lying, reread, { promised, packed }] = await Promise.all([
    readStock(tx, ids, lock, at ?? new Date()),
    lock || lotIds.length > 0 ? readMarks(tx, lock ? [...ids, ...lotIds] : lotIds) : [],
    readBespoken(tx, ids, wants, at ?? new Date()),
    behindTheLock()
  ]);
  const happenedAt = at ?? nowAfter(lying);
  const later = await readLaterMovements(tx, lying, happenedAt);
  const stock = lying.filter((row) => Number(row.quantity) !== 0);
  const fresh = lock ? reread.filter((mark) => read.has(mark.id)) : found,
    lots = reread.filter((mark) => !read.has(mark.id));
  const cameTo = [...new Set(stock.map((row) => row.place_id))].filter(
    (id) => ![...placesThere.values(), ...named.values()].some((place) => place.id === id)
  );
  const places = new Map([
    ...named,
    ...placesThere,
    ...(cameTo.length > 0 ? await readPlaces(tx, cameTo) : [])
  ]);
  const marks = indexMarks(fresh);

  const codeById = new Map([...places.values()].map((place) => [place.id, codeKey(place.code)]));
  const byMark = stockByMark(stock, codeById);
  const [first] = places.values();
  const gone =
    wants.draws && !wants.goneIfRefused ? await readGone(tx, fresh, byMark, event) : NONE;
  return {
    happenedAt,
    day: dayOf(happenedAt, first?.zone ?? HOME_ZONE),
    order,
    products: allProducts,
    places,
    marks,
    partners,
    marksById: new Map([...fresh, ...lots].map((mark) => [mark.id, mark])),
    stock: byMark,
    asBuilt,
    event: event?.known ?? null,
    elsewhere: elsewhereOf,
    named: namedOutputs,
    bills,
    gone,
    promised,
    offSpec: judged.offSpec,
    untested: judged.untested,
    costs,
    currency,
    units,
    packed,
    wishes,
    granted,
    sales,
    recalled,
    opened,
    later
  };
}

/** Products of outputs that have a bill of their own: neither the order's, nor made beside it. */
function ownBilled(outputs: readonly NamedMarks[], order: KnownOrder | null): string[] {
  const bill = order?.bill?.bill;
  const others = bill ? [bill.product, ...bill.coProducts.map((one) => one.product)] : [];
  const told = new Set(others.map(codeKey));
  const codes = outputs.map((one) => one.product).filter(askable);
  return [...new Set(codes.map(codeKey))].filter((code) => !told.has(code));
}

/**
 * Stock by mark and place. Serials lie one at a place: those of one place share what says so, and
 * ten thousand of them make one map.
 */
function stockByMark(
  stock: readonly { mark_id: number; place_id: number; quantity: string }[],
  codeById: ReadonlyMap<number, string>
): Map<number, ReadonlyMap<string, Quantity>> {
  const byMark = new Map<number, ReadonlyMap<string, Quantity>>(),
    oneAt = new Map<number, ReadonlyMap<string, Quantity>>();
  for (const row of stock) {
    const code = codeById.get(row.place_id)!,
      before = byMark.get(row.mark_id);
    if (!before && row.quantity === '1.000000') {
      let one = oneAt.get(row.place_id);
      if (!one) oneAt.set(row.place_id, (one = new Map([[code, ONE]])));
      byMark.set(row.mark_id, one);
    } else byMark.set(row.mark_id, new Map(before ?? []).set(code, quantity(row.quantity)));
  }
  return byMark;
}

async function readOrder(
  tx: Tx,
  kind: string,
  number: string,
  lock: boolean
): Promise<KnownOrder | null> {
  const [row] = await tx<
    {
      id: number;
      number: string;
      closed_at: Date | null;
      partner: string | null;
      bill_id: number | null;
      named: number;
    }[]
  >`
    SELECT o.id, o.number, o.closed_at, p.code AS partner, o.bill_id,
      (SELECT count(*)::int FROM planned_output n WHERE n.order_id = o.id) AS named
    FROM trade_order o
      LEFT JOIN partner p ON p.id = o.partner_id
    WHERE o.kind = ${kind}
      AND upper(o.number) = ${numberKey(number)} ${lock ? tx`FOR NO KEY UPDATE OF o` : tx``}
  `;
  if (!row) return null;
  const lines = await tx<
    { product_id: number; ordered: string; most: string; done: string; price: string | null }[]
  >`
    SELECT l.product_id, sum(l.quantity) AS ordered,
      CASE WHEN bool_and(l.unit_price IS NOT NULL) THEN
        sum(l.quantity * l.unit_price) / sum(l.quantity) END AS price,
      sum(l.quantity * (1 + coalesce(l.over_percent, p.over_receipt_percent) / 100)) AS most,
      coalesce(
        (
          SELECT d.done
          FROM order_booked d
          WHERE d.order_id = ${row.id} AND d.product_id = l.product_id
        ),
          0
      ) AS done
    FROM order_line l
      JOIN product p ON p.id = l.product_id
    WHERE l.order_id = ${row.id}
    GROUP BY l.product_id
  `;
  const announced =
    kind === 'purchase'
      ? await tx<{ product_id: number; lot: string | null; serial: string | null }[]>`
        SELECT l.product_id, a.lot, a.serial
        FROM announced_number a
          JOIN order_line l USING (order_id, line)
        WHERE a.order_id = ${row.id}
      `
      : [];
  const bill = row.bill_id === null ? null : await billById(tx, row.bill_id);
  const [more] =
    row.bill_id === null
      ? []
      : await tx<{ latest: number; ids: Record<string, number> }[]>`
        SELECT (SELECT max(version) FROM bill WHERE product_id = b.product_id) AS latest,
          (
            SELECT jsonb_object_agg(upper(p.code), p.id)
            FROM product p
            WHERE p.id = b.product_id
              OR p.id IN (
                SELECT component_id
                FROM bill_part
                WHERE bill_id = b.id
                UNION
                SELECT unnest(alternates)
                FROM bill_part
                WHERE bill_id = b.id
                UNION
                SELECT product_id
                FROM bill_co_product
                WHERE bill_id = b.id
              )
          ) AS ids
        FROM bill b
        WHERE b.id = ${row.bill_id}
      `;
  return {
    bill: bill && { bill, latest: more!.latest, ids: new Map(Object.entries(more!.ids)) },
    named: row.named,
    id: row.id,
    number: row.number,
    closed: row.closed_at !== null,
    partner: row.partner,
    lines: new Map(
      lines.map((line) => [
        line.product_id,
        {
          ordered: quantity(line.ordered),
          most: quantity(line.most),
          done: quantity(line.done),
          price: line.price === null ? null : quantity(line.price)
        }
      ])
    ),
    announced: new Set(
      announced.flatMap((one) => [
        ...(one.serial === null ? [] : [markKey(one.product_id, 'serial', one.serial)]),
        ...(one.lot === null ? [] : [markKey(one.product_id, 'lot', one.lot)])
      ])
    )
  };
}

/** The products, the partner and the places a request names. */
async function readNamedThings(
  tx: Tx,
  wants: Wants
): Promise<{
  products: Map<string, KnownProduct>;
  partners: Map<string, KnownPartner>;
  places: Map<string, KnownPlace>;
}> {
  const places = distinctCodes(wants.places);
  const rows = await together<{ product: ProductRow; partner: KnownPartner; place: KnownPlace }>(
    tx,
    {
      product: productsNamed(tx, wants.products),
      partner:
        wants.partner !== null && askable(wants.partner)
          ? tx`
            SELECT id, code, name, supplier, customer
            FROM partner
            WHERE upper(code) = ${codeKey(wants.partner)}
          `
          : null,
      place:
        places.length > 0
          ? tx`
            SELECT p.id, p.code, p.name, s.name AS site, s.zone, p.kind = 'quarantine' AS quarantine,
              p.kind = 'transit' AS transit
            FROM place p
              JOIN site s ON s.id = p.site_id
            WHERE upper(p.code) = ANY(${places})
              OR (
                p.kind = 'quarantine'
                  AND p.site_id IN (SELECT site_id FROM place WHERE upper(code) = ANY(${places}))
              )
            ORDER BY p.id
          `
          : null
    }
  );
  const byCode = <T extends { code: string }>(list: readonly T[]) =>
    new Map(list.map((row) => [codeKey(row.code), row]));
  return {
    products: asProducts(rows.product),
    partners: byCode(rows.partner),
    places: byCode(rows.place)
  };
}

async function readPlaces(tx: Tx, ids: readonly number[]): Promise<Map<string, KnownPlace>> {
  const rows = await tx<KnownPlace[]>`
    SELECT p.id, p.code, p.name, s.name AS site, s.zone, p.kind = 'quarantine' AS quarantine,
              p.kind = 'transit' AS transit
    FROM place p
      JOIN site s ON s.id = p.site_id
    WHERE p.id = ANY(${ids as number[]})
    ORDER BY p.id
  `;
  return new Map(rows.map((row) => [codeKey(row.code), row]));
}

/** The places where these marks lie or lay, and these. */
async function readPlacesOf(
  tx: Tx,
  marks: readonly number[],
  ids: readonly number[]
): Promise<Map<string, KnownPlace>> {
  if (marks.length === 0 && ids.length === 0) return new Map();
  const rows = await tx<KnownPlace[]>`
    SELECT p.id, p.code, p.name, s.name AS site, s.zone, p.kind = 'quarantine' AS quarantine,
              p.kind = 'transit' AS transit
    FROM place p
      JOIN site s ON s.id = p.site_id
    WHERE p.id = ANY(${ids as number[]})
      OR p.id IN (SELECT t.place_id FROM stock t WHERE t.mark_id = ANY(${marks as number[]}))
    ORDER BY p.id
  `;
  return new Map(rows.map((row) => [codeKey(row.code), row]));
}

/**
 * The numbers a list of named marks can mean: all keys in one array, and for each product and kind
 * the stretch of it that is theirs, so that ten thousand numbers are sent once and not with their
 * product and kind beside every one.
 */
function wantedKeys(products: ReadonlyMap<string, KnownProduct>, named: readonly NamedMarks[]) {
  const groups: { productId: number; kind: MarkKind; keys: Set<string> }[] = [];
  const groupOf = (productId: number, kind: MarkKind) => {
    const keys = new Set<string>();
    groups.push({ productId, kind, keys });
    return keys;
  };
  // A product marked differently now may have lots and serials of before, so both are looked for
  // wherever they are named.
  const ofProduct = each(products, ({ id }) => ({
    lots: groupOf(id, 'lot'),
    serials: groupOf(id, 'serial')
  }));
  for (const { product: code, marks } of named) {
    const keys = ofProduct(code);
    if (!keys) continue;
    for (const mark of marks) {
      const lot = mark.lot === undefined ? null : keyOfNumber(mark.lot),
        serial = mark.serial === undefined ? null : keyOfNumber(mark.serial);
      if (lot !== null) keys.lots.add(lot);
      if (serial !== null) keys.serials.add(serial);
    }
  }
  const filled = groups.filter((group) => group.keys.size > 0);
  let end = 0;
  return {
    // One text and not an array of ten thousand: a number holds no line end, and neither side has
    // to quote each.
    keys: filled.flatMap((group) => [...group.keys]).join('\n'),
    products: filled.map((group) => group.productId),
    kinds: filled.map((group) => group.kind),
    from: filled.map((group) => {
      const start = end + 1;
      end += group.keys.size;
      return start;
    }),
    counts: filled.map((group) => group.keys.size),
    // Also of a numbered product: its plan may let numbers come later, or it was kept by quantity
    // before.
    bulk: [...products.values()].map((product) => product.id)
  };
}

/** @param onlyWhich where all else is read behind the lock: which marks they are, and no more */
async function findMarks(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  named: readonly NamedMarks[],
  onlyWhich: boolean
): Promise<KnownMark[]> {
  const wanted = wantedKeys(products, named);
  if (wanted.bulk.length === 0) return [];
  // Two branches, so that each has an index: an OR over both would read every mark of a product for
  // every number.
  const read = await inColumns<MarkRow>(
    tx,
    onlyWhich ? WHICH : MARK,
    tx`
    SELECT ${onlyWhich ? tx(WHICH.map((name) => `m.${name}`)) : tx.unsafe(MARK_COLUMNS)}
    FROM (
      SELECT m.* FROM unnest(${wanted.products}::bigint[], ${wanted.kinds}::text[], ${wanted.from}::int[], ${wanted.counts}::int[]) AS g (product_id, kind, first, count)
      CROSS JOIN LATERAL unnest((SELECT k FROM (SELECT string_to_array(${wanted.keys}, E'\\n') AS k OFFSET 0) one)[g.first : g.first + g.count - 1]) AS w (number_key)
      JOIN mark m ON m.product_id = g.product_id AND m.kind = g.kind AND m.number_key = w.number_key
      UNION ALL
      SELECT m.* FROM mark m WHERE m.kind = 'bulk' AND m.product_id = ANY(${wanted.bulk})
    ) m ${onlyWhich ? tx`` : tx`JOIN event e ON e.id = m.birth_event`}`
  );
  return asKnown(read);
}

async function readMarks(tx: Tx, ids: readonly number[]): Promise<KnownMark[]> {
  const read = await inColumns<MarkRow>(
    tx,
    MARK,
    tx`
      SELECT ${tx.unsafe(MARK_COLUMNS)}
      FROM mark m
        JOIN event e ON e.id = m.birth_event
      WHERE m.id = ANY(${idList(ids)}::text::bigint[])
    `
  );
  return asKnown(read);
}

/** Most of ten thousand marks have none: they share this. */
const NO_FACTS: FactValues = {};

/** Columns that are told behind the lock, where only which mark it is was asked. */
const TOLD_LATER: Omit<Columns<MarkRow>, (typeof WHICH)[number]> = {
  state: [],
  expires_on: [],
  made_on: [],
  retest_on: [],
  supplier_number: [],
  facts: [],
  born_on: [],
  unmade: []
};

function asKnown(asked: Columns<MarkRow>): KnownMark[] {
  const read = { ...TOLD_LATER, ...asked };
  return read.id.map((id, at) => ({
    id,
    productId: read.product_id[at]!,
    kind: read.kind[at]!,
    number: read.number[at]!,
    lotId: read.lot_id[at]!,
    state: read.state[at]!,
    expires: read.expires_on[at]!,
    made: read.made_on[at]!,
    retest: read.retest_on[at]!,
    supplierNumber: read.supplier_number[at]!,
    facts: read.facts[at] ?? NO_FACTS,
    bornOn: read.born_on[at]!,
    ...(read.unmade[at] ? { unmade: true } : {})
  }));
}

/** On hand of a mark at a place, and when anything of it last moved there, where that is still to come. */
interface StockRow {
  mark_id: number;
  place_id: number;
  quantity: string;
  latest: Date | null;
}

/** A clock that is a little behind another's does not put what happens now before what did. */
const MOST_BEHIND_MS = 60_000;

/** Now, behind the lock: whoever had it before happened before. */
function nowAfter(lying: readonly StockRow[]): Date {
  const now = Date.now();
  const latest = lying.reduce((most, { latest: at }) => Math.max(most, at?.getTime() ?? 0), now);
  return new Date(latest <= now + MOST_BEHIND_MS ? latest : now);
}

/** @param since when the booking happens: what moved before it needs no look */
async function readStock(
  tx: Tx,
  ids: readonly number[],
  lock: boolean,
  since: Date
): Promise<StockRow[]> {
  if (ids.length === 0) return [];
  const read = await inColumns<Omit<StockRow, 'latest'> & { latest: string | null }>(
    tx,
    ['mark_id', 'place_id', 'quantity', 'latest'],
    tx`
      SELECT mark_id, place_id, quantity::text,
        CASE WHEN latest > ${since} THEN latest END AS latest
      FROM stock
      WHERE mark_id = ANY(${idList(ids)}::text::bigint[])
      ORDER BY mark_id, place_id ${lock ? tx`FOR UPDATE` : tx``}
    `
  );
  return read.mark_id.map((mark_id, at) => ({
    mark_id,
    place_id: read.place_id[at]!,
    quantity: read.quantity[at]!,
    latest: read.latest[at] ? new Date(read.latest[at]) : null
  }));
}

/** The lots of these products that lie anywhere. */
async function lotsOnHand(tx: Tx, codes: readonly string[]): Promise<number[]> {
  const rows = await tx<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE upper(p.code) = ANY(${distinctCodes(codes)})
      AND m.kind = 'lot'
      AND EXISTS (
        SELECT
        FROM stock s
        WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isFreePlace(tx, tx`s.place_id`)}
      )
  `;
  return rows.map((row) => row.id);
}

/** The ids of these among the marks that were found. */
function idsNamed(
  products: ReadonlyMap<string, KnownProduct>,
  named: readonly NamedMarks[],
  marks: MarkIndex
): number[] {
  const idOf = (product: KnownProduct, kind: MarkKind, number: string | undefined) =>
    number === undefined ? [] : (findMark({ marks }, product, kind, number)?.id ?? []);
  return named.flatMap(({ product: code, marks: these }) => {
    const product = products.get(codeKey(code));
    if (!product) return [];
    return these.flatMap(({ lot, serial }) =>
      [idOf(product, 'lot', lot), idOf(product, 'serial', serial)].flat()
    );
  });
}

/**
 * What went into each of these marks by what made it and still holds; shared batches by the mark's
 * share.
 * @param ever also what came out again
 */
async function readAsBuilt(
  tx: Tx,
  ids: readonly number[],
  ever: boolean
): Promise<Map<number, PartInside[]>> {
  if (ids.length === 0) return new Map();
  const rows = await tx<
    { host: number; mark: number; went_in: string; came_out: string; made: string }[]
  >`
    SELECT n.host, n.part AS mark, n.went_in, n.came_out, n.made
    FROM insides_of(
      ${idList(ids)}::text::bigint[],
        array_fill(NULL::bigint, ARRAY[${ids.length}::int])
    ) n
    WHERE ${ever} OR n.went_in > n.came_out
  `;
  return new Map(
    [...groupBy(rows, (row) => row.host)].map(([host, list]) => [
      host,
      list.map((row) => ({
        mark: row.mark,
        wentIn: quantity(row.went_in),
        left: quantity(row.went_in).minus(row.came_out),
        made: quantity(row.made)
      }))
    ])
  );
}

/** Which order named each of these outputs ahead. */
async function readNamed(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  outputs: readonly NamedMarks[]
): Promise<Map<string, string>> {
  const rows = outputs.flatMap(({ product: code, marks }) => {
    const product = products.get(codeKey(code));
    return product
      ? marks.flatMap((mark) => {
          const number = mark.serial ?? mark.lot;
          return askable(number) ? [{ id: product.id, key: numberKey(number) }] : [];
        })
      : [];
  });
  if (rows.length === 0) return new Map();
  const found = await tx<{ product_id: number; number: string; serial: boolean; order: string }[]>`
    SELECT n.product_id, n.number, p.marking LIKE 'serial%' AS serial, o.number AS order
    FROM unnest(
      ${rows.map((row) => row.id)}::bigint[], ${rows.map((row) => row.key)}::text[]
    ) AS w (product_id, number_key)
      JOIN planned_output n USING (product_id, number_key)
      JOIN product p ON p.id = n.product_id
      JOIN trade_order o ON o.id = n.order_id
  `;
  return new Map(
    found.map((row) => [
      markKey(row.product_id, row.serial ? 'serial' : 'lot', row.number),
      row.order
    ])
  );
}

/**
 * What of these marks is promised to orders and still counts, and what of them is in cartons that
 * have not left.
 */
async function readBespoken(
  tx: Tx,
  ids: readonly number[],
  wants: Wants,
  at: Date
): Promise<Pick<Snapshot, 'promised' | 'packed'>> {
  const list = idList(ids);
  const rows =
    ids.length === 0
      ? { promised: [], packed: [] }
      : await together<{
          promised: { mark: number; order: string; partner: string | null; quantity: string };
          packed: { mark: number; sscc: string; quantity: string };
        }>(tx, {
          promised: !wants.promises
            ? null
            : tx`
              SELECT r.mark_id AS mark, o.number AS order, t.name AS partner, r.quantity::text
              FROM reservation r
                JOIN trade_order o ON o.id = r.order_id
                LEFT JOIN partner t ON t.id = o.partner_id
              WHERE r.mark_id = ANY(${list}::text::bigint[])
                AND o.closed_at IS NULL
                AND coalesce(r.until, 'infinity') >= ${at}::date
            `,
          packed: !wants.packed
            ? null
            : tx`
              SELECT c.mark_id AS mark, u.sscc, c.quantity::text
              FROM unit_content c
                JOIN logistic_unit u ON u.id = c.unit_id
              WHERE c.mark_id = ANY(${list}::text::bigint[]) AND c.quantity > 0 AND NOT c.shipped
              ORDER BY u.id
            `
        });
  const exact = <T extends { mark: number; quantity: string }>(of: readonly T[]) =>
    new Map(
      [...groupBy(of, (row) => row.mark)].map(([mark, some]) => [
        mark,
        some.map(({ mark: _, quantity: amount, ...row }) => ({
          ...row,
          quantity: quantity(amount)
        }))
      ])
    );
  return { promised: exact(rows.promised), packed: exact(rows.packed) };
}

/** The cost of one of each mark, where it is known: see stock/costs. */
async function readCosts(tx: Tx, ids: readonly number[]): Promise<Map<number, Quantity>> {
  const rows = await tx<{ mark: number; cost: string | null }[]>`
    SELECT DISTINCT ON (mark_id) mark_id AS mark, unit_cost AS cost
    FROM mark_cost
    WHERE mark_id = ANY(${idList(ids)}::text::bigint[])
    ORDER BY mark_id, event_id DESC, told_by DESC
  `;
  return new Map(rows.flatMap(({ mark, cost }) => (cost === null ? [] : [[mark, quantity(cost)]])));
}

/** The currency costs are kept in; null where they are not. */
async function readCurrency(tx: Tx): Promise<string | null> {
  const [row] = await tx<{ currency: string | null }[]>`SELECT currency FROM company`;
  return row?.currency ?? null;
}

/** The products of marks that the request did not name itself. */
async function readProductsOf(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  marks: readonly KnownMark[]
): Promise<ReadonlyMap<string, KnownProduct>> {
  const known = new Set([...products.values()].map((product) => product.id));
  const missing = [...new Set(marks.map((mark) => mark.productId))].filter((id) => !known.has(id));
  if (missing.length === 0) return products;
  const codes = await tx<{ code: string }[]>`SELECT code FROM product WHERE id = ANY(${missing})`;
  return new Map([
    ...products,
    ...(await readProducts(
      tx,
      codes.map((row) => row.code)
    ))
  ]);
}

/** What is worked out once for each product, by its code as ten thousand lines write it. */
function each<T>(
  products: ReadonlyMap<string, KnownProduct>,
  of: (product: KnownProduct) => T
): (code: string) => T | undefined {
  const made = new Map([...products].map(([key, product]) => [key, of(product)]));
  const byCode = new Map<string, T | undefined>();
  return (code) => {
    if (!byCode.has(code)) byCode.set(code, made.get(codeKey(code)));
    return byCode.get(code);
  };
}

/** A number that can be one and is none of these. */
function addMissing(
  missing: Set<string>,
  known: ReadonlyMap<string, KnownMark> | undefined,
  number: string | undefined
): void {
  const key = number === undefined ? null : keyOfNumber(number);
  if (key !== null && !known?.has(key)) missing.add(key);
}

async function readElsewhere(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  named: Wants['marks'],
  marks: MarkIndex
): Promise<Snapshot['elsewhere']> {
  const missing = new Set<string>();
  const indexOf = each(products, ({ id }) => ({
    lots: marks.get(markGroup(id, 'lot')),
    serials: marks.get(markGroup(id, 'serial'))
  }));
  for (const { product: code, marks: rows } of named) {
    const index = indexOf(code);
    if (!index) continue;
    for (const { lot, serial } of rows) {
      addMissing(missing, index.lots, lot);
      addMissing(missing, index.serials, serial);
    }
  }
  if (missing.size === 0) return new Map();
  const numbers = [...missing];
  const rows = await tx<
    { number_key: string; kind: MarkKind; product: string; now: string | null }[]
  >`
    SELECT DISTINCT ON (f.number_key) f.number_key, f.kind, f.now,
      p.code || ' ' || p.name AS product
    FROM (
      SELECT m.number_key, m.kind, m.product_id, NULL AS now, m.id
      FROM mark m
      WHERE m.number_key = ANY(${numbers})
      UNION ALL
      SELECT upper(c.old_value), m.kind, m.product_id, m.number::text, m.id
      FROM mark_change c
        JOIN mark m ON m.id = c.mark_id
      WHERE c.field = 'number'
        AND upper(c.old_value) = ANY(${numbers})
        AND m.number_key <> upper(c.old_value)
    ) f
      JOIN product p ON p.id = f.product_id
    ORDER BY f.number_key, f.now NULLS FIRST, f.id
  `;
  return new Map(
    rows.map(({ now, ...row }) => [row.number_key, now === null ? row : { ...row, now }])
  );
}
