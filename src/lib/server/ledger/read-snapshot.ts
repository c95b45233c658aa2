import { dayOf, HOME_ZONE } from '../../core/calendar/day.ts';
import type { NamedMarks, Wants } from '../../core/ledger/request.ts';
import {
  codeKey,
  indexMarks,
  type KnownMark,
  type KnownOrder,
  type KnownProduct,
  type KnownUnit,
  type Snapshot
} from '../../core/ledger/snapshot.ts';
import { billsInForce } from '../catalogue/bills.ts';
import { askable } from './named-codes.ts';
import { readProducts } from './read-products.ts';
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
import { readAsBuilt, idsNamed } from './read-as-built.ts';
import { readBespoken } from './read-bespoken.ts';
import { readCosts, readCurrency } from './read-costs.ts';
import { readElsewhere } from './read-elsewhere.ts';
import { findMarks, readMarks } from './read-marks.ts';
import { readNamed } from './read-named.ts';
import { readNamedThings, readPlaces, readPlacesOf } from './read-named-things.ts';
import { readOrder } from './read-order.ts';
import { lotsOnHand, nowAfter, readStock, stockByMark } from './read-stock.ts';
import { wantedMarks } from './wanted-marks.ts';

const NONE: ReadonlyMap<number, never> = new Map<number, never>();
const NOT_JUDGED: Judged = { offSpec: new Map(), untested: new Set() };

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
  const wanted = wantedMarks(products, wants.marks);
  const [namedMarks, drawnLots, units] = await Promise.all([
    findMarks(tx, products, wanted, lock),
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
    wants.draws ? readElsewhere(tx, wanted, byNumber) : new Map(),
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
