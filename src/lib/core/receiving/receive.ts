import { isDay } from '../calendar/day.ts';
import { sayDay, sayDistance } from '../calendar/say-day.ts';
import { hasSerials } from '../catalogue/plan.ts';
import { numberKey, shown } from '../numbers/number.ts';
import { formatQuantity, ONE, parseQuantity, total, type Quantity } from '../quantity/quantity.ts';
import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Faults } from '../faults/fault.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import {
  findPartner,
  findPlace,
  findProduct,
  nameOf,
  saidOnHand,
  whereItLies
} from '../ledger/lookup.ts';
import { checkOrder, type Booked } from '../ledger/order-check.ts';
import type { Receipt, ReceiptLine, ReceivedMark, Wants } from '../ledger/request.ts';
import {
  codeKey,
  markGroup,
  markKey,
  type KnownMark,
  type KnownProduct,
  type Snapshot
} from '../ledger/snapshot.ts';
import { type MarkKind } from '../catalogue/marking.ts';

export const receiptWants = (request: Receipt): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: request.supplier,
  order: { kind: 'purchase', number: request.document },
  marks: request.lines.map((line) => ({ product: line.product, marks: line.marks ?? [] })),
  draws: false
});

/** A row of a line with what it was read as; `rest` is the remainder whose numbers come later. */
interface ReadRow {
  mark: ReceivedMark;
  identity: Identity;
  quantity: Quantity;
  path: string;
  line: number;
  at: number;
  rest: boolean;
  /** How the rows name its mark, once it has one. */ ref: MarkRef | null;
}

interface Seen {
  known: ReadonlyMap<string, KnownMark> | undefined;
  rows: Map<string, ReadRow>;
}

/**
 * Decides a receipt: which marks are born, which lots are added to, what goes where.
 * Where the plan lets numbers come later, what is not numbered is kept by quantity until it is.
 * Faults: mark.missing, mark.duplicate, mark.wrong-product, quantity.mismatch, quantity.not-whole,
 * number.malformed, date.missing, fact.missing, mark.off-spec, mark.expired, order.closed,
 * product.unknown, place.unknown, partner.unknown.
 */
export function decideReceipt(snapshot: Snapshot, request: Receipt): Decision {
  const faults = new Faults(request.reasons);
  const rows = emptyRows();
  const births = new Births(snapshot, rows, faults);
  const partner = findPartner(snapshot, request.supplier, 'supplier', 'supplier', faults);
  rows.partnerId = partner?.id ?? null;
  rows.orderId = snapshot.order?.id ?? null;
  const booked: Booked[] = [];
  /**
   * Every mark of this sheet by product, kind and folded number: the row it first stood in; and
   * beside them what is known already.
   */
  const seen = new Map<KnownProduct, Record<MarkKind, Seen>>();

  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const place = findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product) return;
    const asked = lineQuantity(product, line.quantity, `${path}.quantity`, faults, line.unit);
    if (asked) booked.push({ product, quantity: asked, path: `${path}.quantity` });
    const cost =
      line.unitCost === undefined || line.unitCost.trim() === ''
        ? null
        : parseQuantity(line.unitCost);
    if (line.unitCost?.trim() && (cost === null || cost.lt(0)))
      faults.add(
        'quantity.mismatch',
        `${path}.unitCost`,
        `“${shown(line.unitCost)}” is no cost of one ${product.unit}.`,
        product.code
      );
    const named = namedMarks(product, line, asked, path);
    if (named === null) return;
    const good: ReadRow[] = [];
    named.forEach((mark, at) => {
      const row = readRow(
        product,
        line,
        mark,
        named.length,
        asked,
        product.marking === 'none' ? path : `${path}.marks[${at}]`,
        index,
        at
      );
      if (row) good.push(row);
    });
    if (asked && good.length === named.length) {
      const rest = restOf(product, good, asked, path);
      if (rest) good.push(rest);
      else if (!sumOf(good).eq(asked)) mismatch(product, good, asked, path);
    }
    for (const row of good) {
      const ref = markFor(product, row);
      if (ref === null) continue;
      if (place)
        rows.movements.push(
          cost === null
            ? { mark: ref, placeId: place.id, quantity: row.quantity }
            : { mark: ref, placeId: place.id, quantity: row.quantity, unitCost: cost }
        );
      rows.answer.push(ref);
    }
  });

  tellAnnounced();
  checkOrder(snapshot, booked, partner?.code ?? null, 'refuse', faults);
  return decided(rows, faults, snapshot);

  /**
   * The rows of a line: one for what has no number, otherwise what was given; null after a fault.
   */
  function namedMarks(
    product: KnownProduct,
    line: ReceiptLine,
    asked: Quantity | null,
    path: string
  ): ReceivedMark[] | null {
    const given = line.marks ?? [];
    if (
      given.length > 0 ||
      product.plan.identity === 'none' ||
      (product.plan.asks.receive !== 'always' && product.plan.identity !== 'serial-in-lot')
    )
      return given.length > 0 ? given : [{}];
    const lot = product.plan.identity === 'lot';
    const message = `${product.code} ${product.name} needs ${lot ? 'a lot' : 'serials'} here. Type, scan or paste ${asked && !lot ? `${formatQuantity(asked)} of them` : 'it'}.`;
    if (product.plan.identity === 'serial-in-lot')
      faults.add('mark.missing', `${path}.marks`, message);
    else if (faults.answer(product.plan, 'number missing', `${path}.marks`, message)) return [{}];
    return null;
  }

  function readRow(
    product: KnownProduct,
    line: ReceiptLine,
    mark: ReceivedMark,
    rowsOfLine: number,
    asked: Quantity | null,
    path: string,
    index: number,
    at: number
  ): ReadRow | null {
    const identity = identify(product, mark, 'receive', path, faults);
    if (!identity) return null;
    const quantity = rowQuantity(product, identity, mark, line, rowsOfLine, asked, path);
    return quantity && { mark, identity, quantity, path, line: index, at, rest: false, ref: null };
  }

  function rowQuantity(
    product: KnownProduct,
    identity: Identity,
    mark: ReceivedMark,
    line: ReceiptLine,
    rowsOfLine: number,
    asked: Quantity | null,
    path: string
  ): Quantity | null {
    if (identity.kind === 'serial')
      return mark.quantity === undefined
        ? ONE
        : serialQuantity(product, shown(mark.serial ?? ''), mark.quantity, path, faults);
    if (mark.quantity !== undefined && mark.quantity.trim() !== '' && product.marking !== 'none')
      return lineQuantity(product, mark.quantity, path, faults, line.unit);
    if (rowsOfLine === 1) return asked;
    faults.add(
      'quantity.mismatch',
      path,
      `${identity.kind === 'lot' ? `Lot ${shown(mark.lot ?? '')}` : `This row of ${product.code}`} has no quantity. Say how much of ${product.code} it holds.`,
      shown(mark.lot ?? '')
    );
    return null;
  }

  /**
   * What is left of a line whose numbers may come later: kept by quantity, within the one lot its
   * rows name.
   */
  function restOf(
    product: KnownProduct,
    good: readonly ReadRow[],
    asked: Quantity,
    path: string
  ): ReadRow | null {
    const open = asked.minus(sumOf(good));
    if (open.lte(0) || product.plan.identity === 'none' || product.plan.asks.receive === 'always')
      return null;
    const lots = new Set(
      good.map(
        (row) => row.identity.lot ?? (row.identity.kind === 'lot' ? row.identity.number : '')
      )
    );
    if (product.plan.identity === 'serial-in-lot' && lots.size !== 1) return null;
    const identity: Identity =
      product.plan.identity === 'serial-in-lot'
        ? { kind: 'lot', number: [...lots][0]!, lot: null }
        : { kind: 'bulk', number: '', lot: null };
    return {
      mark: {},
      identity,
      quantity: open,
      path,
      line: good[0]?.line ?? 0,
      at: -1,
      rest: true,
      ref: null
    };
  }

  function mismatch(
    product: KnownProduct,
    good: readonly ReadRow[],
    asked: Quantity,
    path: string
  ): void {
    const sum = formatQuantity(sumOf(good));
    const what = hasSerials(product.plan.identity)
      ? `${sum} serial${sum === '1' ? ' is' : 's are'} given`
      : `its lots add up to ${sum}`;
    faults.add(
      'quantity.mismatch',
      `${path}.quantity`,
      `${product.code} arrives with ${formatQuantity(asked)} ${product.unit} but ${what}. Make the two the same.`,
      product.code
    );
  }

  function markFor(product: KnownProduct, row: ReadRow): MarkRef | null {
    const { identity, mark, path } = row;
    const { known, rows: first } = seenOf(product)[identity.kind];
    const key = numberKey(identity.number);
    const before = first.get(key);
    if (
      before &&
      (identity.kind === 'serial' ||
        (before.line === row.line && identity.kind === 'lot' && !row.rest))
    ) {
      faults.add(
        'mark.duplicate',
        path,
        `${identity.kind === 'lot' ? 'Lot' : 'Serial'} ${identity.number} is already in ${sayRow(before)} of this sheet. Remove one of the two.`,
        identity.number
      );
      return null;
    }
    if (before) return before.ref!;
    const existing = known?.get(key);
    const ref = existing
      ? addTo(product, existing, mark, path)
      : ((identity.kind === 'lot' ? births.lotMade(product, identity.number) : undefined) ??
        bear(product, row));
    if (ref === null) return null;
    row.ref = ref;
    first.set(key, row);
    return ref;
  }

  function seenOf(product: KnownProduct): Record<MarkKind, Seen> {
    let groups = seen.get(product);
    if (groups) return groups;
    const group = (kind: MarkKind): Seen => ({
      known: snapshot.marks.get(markGroup(product.id, kind)),
      rows: new Map()
    });
    groups = { lot: group('lot'), serial: group('serial'), bulk: group('bulk') };
    seen.set(product, groups);
    return groups;
  }

  function sayRow({ line, at, rest }: ReadRow): string {
    return rest
      ? 'what is left'
      : `row ${at + 1}${request.lines.length > 1 ? ` of line ${line + 1}` : ''}`;
  }

  function bear(product: KnownProduct, { identity, mark, path }: ReadRow): MarkRef | null {
    const ref = births.make({
      product,
      identity,
      with: mark,
      madeHere: false,
      earliestComponent: null,
      path
    });
    if (ref === null) return null;
    const { expiresOn } = rows.newMarks[-ref - 1]!;
    if (expiresOn !== null && expiresOn < snapshot.day) {
      const gone = faults.answer(
        product.plan,
        'arrives expired',
        path,
        `${identity.number} expired on ${sayDay(expiresOn)}, ${sayDistance(expiresOn, snapshot.day)}: it can be received, but not used or shipped.`,
        identity.number
      );
      if (!gone) return null;
    }
    return ref;
  }

  /**
   * More of a mark that is known already: a lot takes it where nothing contradicts, a serial never.
   */
  function addTo(
    product: KnownProduct,
    existing: KnownMark,
    mark: ReceivedMark,
    path: string
  ): MarkRef | null {
    if (existing.kind === 'serial') {
      const lies = whereItLies(snapshot, existing);
      faults.add(
        'mark.duplicate',
        path,
        lies
          ? `Serial ${existing.number} is already on hand at ${lies}, since ${sayDay(existing.bornOn)}. Remove it here or give another number.`
          : `Serial ${existing.number} was already used for ${product.code}, on ${sayDay(existing.bornOn)}, and has left since. A number is never used twice: give another.`,
        existing.number!
      );
      return null;
    }
    if (existing.kind === 'bulk') return existing.id;
    const expires = mark.expires?.trim();
    if (expires && isDay(expires) && existing.expires !== expires) {
      faults.add(
        'mark.duplicate',
        path,
        `${nameOf(existing, product)} is known ${existing.expires ? `to expire on ${sayDay(existing.expires)}` : 'without an expiry'}, and here ${sayDay(expires)} is given. Give the same date, another lot, or amend the lot first.`,
        existing.number!
      );
      return null;
    }
    faults.note(
      path,
      existing.state === 'usable'
        ? `Adds to ${nameOf(existing, product)}: ${saidOnHand(snapshot, existing, product)}${existing.expires ? `, expires ${sayDay(existing.expires)}` : ''}.`
        : `${nameOf(existing, product)} is ${existing.state}; what is added to it will be too.`,
      existing.number!
    );
    return existing.id;
  }

  /** Numbers given that the supplier did not announce are told beside their rows. */
  function tellAnnounced(): void {
    const announced = snapshot.order?.announced;
    if (!announced || announced.size === 0) return;
    const ofProducts = new Set([...announced].map((key) => Number(key.slice(0, key.indexOf(' ')))));
    request.lines.forEach((line, index) => {
      const product = snapshot.products.get(codeKey(line.product));
      if (!product || !ofProducts.has(product.id)) return;
      line.marks?.forEach((mark, at) => {
        const number = mark.serial?.trim() || mark.lot?.trim();
        if (
          number &&
          !announced.has(markKey(product.id, mark.serial?.trim() ? 'serial' : 'lot', number))
        )
          faults.note(
            `lines[${index}].marks[${at}]`,
            `${shown(number)} was not announced on ${snapshot.order!.number}.`,
            shown(number)
          );
      });
    });
  }
}

const sumOf = (rows: readonly ReadRow[]): Quantity => total(quantitiesOf(rows));
function* quantitiesOf(rows: readonly ReadRow[]): Iterable<Quantity> {
  for (const row of rows) yield row.quantity;
}
