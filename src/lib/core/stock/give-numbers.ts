import { hasSerials } from '../catalogue/plan.ts';
import { shown } from '../numbers/number.ts';
import { formatQuantity, opposite, total, type Quantity } from '../quantity/quantity.ts';
import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import type { Identity } from '../ledger/identity.ts';
import { unnumberedSource } from '../ledger/late-numbers.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf } from '../ledger/lookup.ts';
import { readNumber } from '../numbers/number.ts';
import type { Identification, ReceivedMark, Wants } from '../ledger/request.ts';
import {
  markKey,
  type KnownMark,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from '../ledger/snapshot.ts';

export const identificationWants = (request: Identification): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: null,
  order: null,
  draws: true,
  marks: request.lines.map((line) => ({
    product: line.product,
    marks: [{ lot: line.lot }, ...line.marks]
  }))
});

/**
 * Decides giving numbers to stock that has none: bulk becomes lots or serials, a lot becomes
 * serials within it. Quantity and place stay; each new mark is tied to what it was, so a trace runs
 * through.
 * Faults: mark.missing, mark.duplicate, mark.unknown, stock.short, quantity.*, number.malformed,
 * date.missing, fact.missing, mark.off-spec, product.unknown, place.unknown.
 */
export function decideIdentification(snapshot: Snapshot, request: Identification): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const births = new Births(snapshot, rows, faults);
  const available = new Availability(snapshot);
  const seen = new Map<string, string>();

  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const place = findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product || !place) return;
    if (product.plan.identity === 'none') {
      faults.add(
        'number.malformed',
        path,
        `${product.code} is kept by quantity only and has no numbers. Change its marking first.`,
        product.code
      );
      return;
    }
    const source = sourceOf(product, line.lot, path);
    if (!source) return;
    const outputs = line.marks.flatMap(
      (mark, at) => outputOf(product, source, place, mark, line.lot, `${path}.marks[${at}]`) ?? []
    );
    if (outputs.length === 0) {
      if (line.marks.length === 0)
        faults.add(
          'mark.missing',
          `${path}.marks`,
          `Give the numbers for ${product.code}: type, scan or paste them.`,
          product.code
        );
      return;
    }
    const sum = total(outputs.map((output) => output.quantity));
    if (!available.take(source.id, sum, place, null)) {
      faults.add(
        'stock.short',
        path,
        `${nameOf(source, product)} has ${formatQuantity(available.amount(source.id, place))} ${product.unit} at ${place.code} without number, and ${formatQuantity(sum)} are given one. Take some off.`,
        product.code
      );
      return;
    }
    rows.movements.push({ mark: source.id, placeId: place.id, quantity: opposite(sum) });
    for (const { mark, quantity } of outputs)
      rows.movements.push({ mark, placeId: place.id, quantity });
    rows.transformations.push({ inputs: [{ mark: source.id, quantity: sum }], outputs });
    rows.answer.push(...outputs.map((output) => output.mark));
  });
  return decided(rows, faults, snapshot);

  /** The stock without number a line means. */
  function sourceOf(
    product: KnownProduct,
    lot: string | undefined,
    path: string
  ): KnownMark | null {
    const named = lot?.trim() ? lot.trim() : null;
    const source = unnumberedSource(snapshot, product, named);
    if (!source)
      faults.add(
        'mark.unknown',
        path,
        named === null
          ? `There is no ${product.code} ${product.name} without number on hand.`
          : `There is no lot ${shown(named)} of ${product.code}. Check the lot.`,
        shown(named ?? product.code)
      );
    return source;
  }

  function outputOf(
    product: KnownProduct,
    source: KnownMark,
    place: KnownPlace,
    mark: ReceivedMark,
    lot: string | undefined,
    path: string
  ): { mark: MarkRef; quantity: Quantity } | null {
    const identity = newIdentity(product, source, mark, lot, path);
    if (!identity) return null;
    const quantity =
      identity.kind === 'serial'
        ? serialQuantity(product, identity.number, mark.quantity, path, faults)
        : lineQuantity(product, mark.quantity ?? '', path, faults);
    const key = markKey(product.id, identity.kind, identity.number);
    const existing = findMark(snapshot, product, identity.kind, identity.number);
    if (existing || seen.has(key)) {
      faults.add(
        'mark.duplicate',
        path,
        existing
          ? `${nameOf(existing, product)} of ${product.code} exists already. Give another number.`
          : `${identity.number} is given twice. Remove one of the two.`,
        identity.number
      );
      return null;
    }
    seen.set(key, path);
    if (!quantity) return null;
    // What is known of the stock is known of each of its units.
    const ref = births.make({
      product,
      identity,
      with: {
        ...mark,
        expires: mark.expires?.trim() || source.expires || undefined,
        made: mark.made?.trim() || source.made || undefined
      },
      madeHere: false,
      earliestComponent: null,
      path
    });
    return ref === null ? null : { mark: ref, quantity };
  }

  /** The mark a row makes: finer than what it is made of. */
  function newIdentity(
    product: KnownProduct,
    source: KnownMark,
    mark: ReceivedMark,
    lot: string | undefined,
    path: string
  ): Identity | null {
    const serials = hasSerials(product.plan.identity);
    const text = (serials ? mark.serial : mark.lot)?.trim() ?? '';
    if (text === '') {
      faults.add(
        'mark.missing',
        path,
        `${product.code} needs ${serials ? 'a serial' : 'a lot'} here. Type or scan it.`
      );
      return null;
    }
    const reading = readNumber(text);
    if (!reading.ok) {
      faults.add(
        'number.malformed',
        path,
        `${serials ? 'Serial' : 'Lot'} ${shown(text)} cannot be used: ${reading.why}.`,
        shown(text)
      );
      return null;
    }
    const within =
      product.plan.identity === 'serial-in-lot'
        ? source.kind === 'lot'
          ? source.number
          : (mark.lot ?? lot)?.trim() || null
        : null;
    if (product.plan.identity === 'serial-in-lot' && within === null) {
      faults.add(
        'mark.missing',
        path,
        `${product.code} needs the lot of serial ${shown(text)}. Type or scan it.`,
        shown(text)
      );
      return null;
    }
    return { kind: serials ? 'serial' : 'lot', number: reading.number, lot: within };
  }
}
