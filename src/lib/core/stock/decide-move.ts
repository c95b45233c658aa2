import { decided, emptyRows, type Decision, type MarkRef, type Rows } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import type { FaultCode } from '../faults/fault-codes.ts';
import { Faults } from '../faults/fault.ts';
import { findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import {
  onePerLine,
  type Move,
  type MoveLine,
  type MoveUnit,
  type Wants
} from '../ledger/request.ts';
import {
  codeKey,
  type KnownMark,
  type KnownPlace,
  type KnownProduct,
  type KnownUnit,
  type Snapshot
} from '../ledger/snapshot.ts';
import { useMark, type Used } from '../ledger/use-mark.ts';
import { shown } from '../numbers/number.ts';
import { ZERO, formatQuantity, opposite, total, type Quantity } from '../quantity/quantity.ts';

export const moveWants = (request: Move): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [
    ...request.lines.flatMap((line) => [line.from, line.to]),
    ...(request.units ?? []).map((unit) => unit.to)
  ],
  partner: null,
  order: null,
  marks: onePerLine(request.lines),
  draws: true,
  promises: true,
  packed: true,
  ...(request.units?.length ? { units: request.units.map((unit) => unit.sscc) } : {})
});

/** Where the goods of a booking may be taken from, and what is said of those that lie elsewhere. */
export interface Reach {
  /** The transfer’s own place, which this booking may take goods from or to. */
  way: string | null;
  mayLeave: (place: KnownPlace) => boolean;
  /** @param goods as `L1 in 095200010000000010` @param lies where they lie, in words */
  tell: (goods: string, lies: string) => { code: FaultCode; message: string };
}

const ALL_THAT_LIES: Reach = {
  way: null,
  mayLeave: ({ transit }) => !transit,
  tell: (goods, lies) => ({
    code: 'stock.short',
    message: `${goods} is on the way between sites (${lies}). Book its arrival first, or leave the carton out.`
  })
};

/** One move being decided. */
interface Moving {
  kind: Move['kind'];
  reach: Reach;
  snapshot: Snapshot;
  faults: Faults;
  rows: Rows;
  available: Availability;
  usedSerials: Map<MarkRef, string>;
  /** What of a mark was moved out of cartons by carrying the cartons themselves. */
  carried: Map<number, Quantity>;
}

/**
 * Decides a move between places, or putting away what came in: the same marks, elsewhere. Held and
 * expired goods may move, as to quarantine they must. A lot may be split over several places, a
 * line for each; what is packed moves with its carton.
 * Faults: those of `useMark`, mark.reserved for what is in a carton, product.unknown,
 * place.unknown, mark.unknown for a carton that is not there, what `reach` tells of its content.
 */
export function decideMove(snapshot: Snapshot, request: Move, reach = ALL_THAT_LIES): Decision {
  const moving: Moving = {
    kind: request.kind,
    reach,
    snapshot,
    faults: new Faults(),
    rows: emptyRows(),
    available: new Availability(snapshot),
    usedSerials: new Map(),
    carried: new Map()
  };
  (request.units ?? []).forEach((unit, index) => carryUnit(moving, unit, `units[${index}]`));
  request.lines.forEach((line, index) => moveLine(moving, line, `lines[${index}]`));
  return decided(moving.rows, moving.faults, snapshot);
}

function moveLine(moving: Moving, line: MoveLine, path: string): void {
  const { kind, snapshot, faults, available, usedSerials } = moving;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const from = placeOf(moving, line.from, `${path}.from`);
  const to = placeOf(moving, line.to, `${path}.to`);
  if (!product || !from || !to) return;
  if (codeKey(from.code) === codeKey(to.code)) {
    const message = `It lies at ${from.code} already. Name another place, or leave the row out.`;
    faults.add('place.unknown', `${path}.to`, message, to.code);
    return;
  }
  const asked = {
    product,
    checkpoint: kind,
    named: line,
    only: from,
    first: null,
    path,
    mustBeUsable: false,
    mayBeInQuarantine: true
  } as const;
  const used = useMark(snapshot, available, usedSerials, asked, faults);
  if (!used || isPacked(moving, product, from, used, path)) return;
  tellPromised(moving, product, used, from, to, path);
  put(moving, used.ref, from, to, used.quantity);
}

/** A place goods are moved from or to; only a transfer goes onto its way and off it. */
function placeOf(
  { reach: { way }, snapshot, faults }: Moving,
  code: string,
  path: string
): KnownPlace | null {
  const own = way !== null && codeKey(code) === codeKey(way) && snapshot.places.get(codeKey(way));
  return own || findPlace(snapshot, code, path, faults);
}

function put(
  { rows }: Moving,
  mark: MarkRef,
  from: KnownPlace,
  to: KnownPlace,
  quantity: Quantity
): void {
  rows.movements.push(
    { mark, placeId: from.id, quantity: opposite(quantity) },
    { mark, placeId: to.id, quantity }
  );
  rows.answer.push(mark);
}

/**
 * Goods in a carton are carried with it. Where they lie at several places, only what must be in
 * cartons here stops.
 */
function isPacked(
  { snapshot, faults, carried }: Moving,
  product: KnownProduct,
  from: KnownPlace,
  { ref, mark, quantity }: Used,
  path: string
): boolean {
  const cartons = snapshot.packed.get(ref);
  if (!cartons || !mark) return false;
  const packed = total(cartons.map((one) => one.quantity)).minus(carried.get(ref) ?? ZERO);
  const lying = snapshot.stock.get(ref) ?? new Map<string, Quantity>();
  const here = lying.get(codeKey(from.code)) ?? ZERO;
  const elsewhere = total(lying.values()).minus(here);
  const packedHere = packed.gt(elsewhere) ? packed.minus(elsewhere) : ZERO;
  const loose = here.minus(packedHere);
  if (quantity.lte(loose)) return false;
  const { sscc } = cartons[0]!;
  const rest = loose.gt(0) ? ` ${formatQuantity(loose)} of it are loose.` : '';
  const message = `${nameOf(mark, product)} of ${product.code} is packed in carton ${sscc}.${rest} Move the carton, or unpack it first.`;
  faults.add('mark.reserved', path, message, mark.number ?? product.code);
  return true;
}

/** What is promised may move: whoever picks it is led to where it lies then. */
function tellPromised(
  { kind, snapshot, faults }: Moving,
  product: KnownProduct,
  { ref, mark }: Used,
  from: KnownPlace,
  to: KnownPlace,
  path: string
): void {
  const number = mark?.number ?? product.code;
  const [first] = snapshot.promised.get(ref) ?? [];
  if (first) {
    const whom = first.partner ? `, ${first.partner}` : '';
    faults.note(path, `${number} is promised to ${first.order}${whom}.`, number);
  }
  if (from.site === to.site || kind === 'transfer') return;
  const message = `${to.code} is at ${to.site}, and ${from.code} at ${from.site}: what is on the road is seen only as a transfer.`;
  faults.note(path, message, number);
}

/** A carton or pallet goes to a place with all that is in it. */
function carryUnit(moving: Moving, { sscc, to: code }: MoveUnit, path: string): void {
  const { snapshot, faults } = moving;
  const to = placeOf(moving, code, `${path}.to`);
  const unit = snapshot.units.get(sscc.trim());
  if (!unit || unit.shipped) {
    const went = unit?.shipped ? `left with ${unit.shipped}` : 'is not known';
    const message = `${shown(sscc)} ${went}. Scan a carton or pallet that is here.`;
    faults.add('mark.unknown', `${path}.sscc`, message, shown(sscc));
    return;
  }
  if (!to) return;
  const goods = goodsIn(snapshot.units, unit);
  for (const [id, quantity] of goods)
    carryContent(moving, id, quantity, { to, sscc: unit.sscc, path });
  if (goods.length === 0) {
    const message = `There is nothing in ${unit.sscc} to be moved.`;
    faults.add('stock.short', path, message, unit.sscc);
  }
}

/** What is in a carton or pallet and in the cartons on it, by mark. */
function goodsIn(units: Snapshot['units'], unit: KnownUnit): [number, Quantity][] {
  const all = [unit, ...unit.cartons.flatMap((one) => units.get(one) ?? [])];
  return all.flatMap(({ contents }) => [...contents]);
}

/** What is in a carton, from wherever it may leave; first from where the carton is not going. */
function carryContent(
  moving: Moving,
  id: number,
  quantity: Quantity,
  { to, sscc, path }: { to: KnownPlace; sscc: string; path: string }
): void {
  const { snapshot, available, carried, reach } = moving;
  const other = [...(snapshot.stock.get(id)?.keys() ?? [])].find((one) => one !== codeKey(to.code));
  const first = other === undefined ? null : (snapshot.places.get(other) ?? null);
  const takings = available.take(id, quantity, null, first, reach.mayLeave);
  if (!takings) {
    tellNotThere(moving, snapshot.marksById.get(id), sscc, path);
    return;
  }
  carried.set(id, (carried.get(id) ?? ZERO).plus(quantity));
  for (const taking of takings) {
    available.add(id, to, taking.quantity);
    if (codeKey(taking.place.code) !== codeKey(to.code))
      put(moving, id, taking.place, to, taking.quantity);
  }
}

function tellNotThere(
  { snapshot, faults, reach }: Moving,
  mark: KnownMark | undefined,
  sscc: string,
  path: string
): void {
  const number = mark?.number ?? sscc;
  const lying = mark ? [...(snapshot.stock.get(mark.id)?.keys() ?? [])] : [];
  const beyond = lying.flatMap((code) => snapshot.places.get(code) ?? []);
  if (mark && beyond.some((place) => !reach.mayLeave(place))) {
    const { code, message } = reach.tell(`${number} in ${sscc}`, whereItLies(snapshot, mark)!);
    faults.add(code, path, message, number);
    return;
  }
  const message = `${number} should be in ${sscc} and is not on hand. Look into the carton, and unpack what is not in it.`;
  faults.add('stock.short', path, message, number);
}

/** Whether anything is moved out of quarantine to where it would be free. */
export function leavesQuarantine({ places, units, stock }: Snapshot, request: Move): boolean {
  const isQuarantine = (code: string) => places.get(codeKey(code))?.quarantine ?? false;
  const lines = request.lines.some(({ from, to }) => isQuarantine(from) && !isQuarantine(to));
  if (lines) return true;
  return (request.units ?? []).some(
    ({ sscc, to }) => !isQuarantine(to) && liesAt(units, stock, sscc).some(isQuarantine)
  );
}

/** Folded codes of the places that what is in a carton or pallet lies at. */
function liesAt(units: Snapshot['units'], stock: Snapshot['stock'], sscc: string): string[] {
  const unit = units.get(sscc.trim());
  const goods = unit ? goodsIn(units, unit) : [];
  return goods.flatMap(([mark]) => [...(stock.get(mark)?.keys() ?? [])]);
}
