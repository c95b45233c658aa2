import { sayDay } from '../calendar/say-day.ts';
import type { Checkpoint } from '../catalogue/plan.ts';
import { shown } from '../numbers/number.ts';
import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef } from './booking.ts';
import type { Availability } from './draw.ts';
import type { Faults } from '../faults/fault.ts';
import { identify, type Identity } from './identity.ts';
import type { LateNumbers } from './late-numbers.ts';
import { lineQuantity, serialQuantity } from './line-quantity.ts';
import { checkUsable, findMark, nameOf } from './lookup.ts';
import type { MarkNamed } from './request.ts';
import {
  codeKey,
  isFree,
  type Gone,
  type KnownMark,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from './snapshot.ts';

export interface Used {
  ref: MarkRef;
  mark: KnownMark | null;
  identity: Identity;
  quantity: Quantity;
  takings: { place: KnownPlace; quantity: Quantity }[];
}

interface Asked {
  product: KnownProduct;
  /** What kind of event this is, for what the plan asks there. */
  checkpoint: Checkpoint;
  named: MarkNamed & { quantity?: string };
  /** Where it must come from, or null for wherever it lies. */
  only: KnownPlace | null;
  /** Where to look first. */
  first: KnownPlace | null;
  path: string;
  /** Held, rejected and expired goods may be scrapped, but neither used nor shipped. */
  mustBeUsable: boolean;
  /** Whether it may lie in quarantine: as it may be scrapped or moved. Not where it must be usable. */
  mayBeInQuarantine?: boolean;
  /** Marks made earlier in the same booking, by key. */
  justMade?: (identity: Identity) => MarkRef | undefined;
  /** Gives a number to unnumbered stock where the plan asks for it only here. */
  late?: LateNumbers;
}

/**
 * Decides the use of one mark, for a build, a shipment or a scrap: which mark it is, whether it may
 * be used, where it is taken from.
 * @param usedBefore serials of this booking with the path of their first use; the mark is added
 * @returns null after adding faults: mark.missing, mark.unknown, mark.duplicate, mark.held,
 * mark.rejected, mark.expired, stock.short, quantity.*, number.malformed
 */
export function useMark(
  snapshot: Snapshot,
  available: Availability,
  usedBefore: Map<MarkRef, string>,
  asked: Asked,
  faults: Faults
): Used | null {
  const { product, named, only, first, path } = asked;
  const identity = identify(product, named, asked.checkpoint, path, faults);
  const quantity =
    identity?.kind === 'serial'
      ? serialQuantity(product, named.serial ?? '', named.quantity, path, faults)
      : identity
        ? amountOf()
        : null;
  if (!identity) return null;
  const known = asked.justMade?.(identity);
  const mark =
    known === undefined ? findMark(snapshot, product, identity.kind, identity.number) : null;
  const made =
    known ??
    (mark ? undefined : (asked.late?.give(product, identity, only, first, path) ?? undefined));
  if (made === undefined && !mark) {
    if (identity.kind === 'bulk') nothingUnnumbered();
    else unknown(identity);
    return null;
  }
  const ref = made ?? mark!.id;
  if (mark && identity.lot !== null && !withinLot(mark, identity.lot)) {
    faults.add(
      'mark.unknown',
      path,
      `Serial ${mark.number} of ${product.code} is not within lot ${identity.lot}. Check the lot, or leave it out.`,
      mark.number!
    );
    return null;
  }
  if (identity.kind === 'serial' && usedBefore.has(ref)) {
    faults.add(
      'mark.duplicate',
      path,
      `Serial ${identity.number} is already used at ${sayPath(usedBefore.get(ref)!)}. A single unit can go only one way: remove one of the two.`,
      identity.number
    );
    return null;
  }
  if (identity.kind === 'serial') usedBefore.set(ref, path);
  const usable = !mark || !asked.mustBeUsable || checkUsable(snapshot, product, mark, path, faults);
  if (!quantity || !usable) return null;
  const onlyFree = asked.mayBeInQuarantine !== true;
  const takings = available.take(ref, quantity, only, first, onlyFree ? isFree : undefined);
  if (!takings) {
    if (onlyFree && lies(ref).gte(quantity)) inQuarantine(identity, ref);
    else short(identity, ref, quantity);
    return null;
  }
  return { ref, mark, identity, quantity, takings };

  function lies(ofRef: MarkRef): Quantity {
    return available.amount(ofRef, only ?? undefined);
  }
  function inQuarantine(wanted: Identity, ofRef: MarkRef): void {
    const name = nameOf({ kind: wanted.kind, number: wanted.number }, product);
    const there = available.describe(ofRef).replace(/ 1$/, '');
    const onTheWay = [...(snapshot.stock.get(ofRef)?.keys() ?? [])].some(
      (code) => snapshot.places.get(code)?.transit
    );
    if (onTheWay) {
      const message = `${name} of ${product.code} is on the way between sites (${there}). Book its arrival first, or take another.`;
      faults.add('stock.short', path, message, wanted.number || product.code);
      return;
    }
    const message = `${name} of ${product.code} lies in quarantine (${there}) and is free for nothing. Have it moved out by quality, or take another.`;
    faults.add('place.quarantine', path, message, wanted.number || product.code);
  }
  function amountOf(): Quantity | null {
    if (named.quantity !== undefined && named.quantity.trim() !== '')
      return lineQuantity(product, named.quantity, path, faults);
    faults.add(
      'quantity.mismatch',
      path,
      `Say how much of ${product.code}${named.lot ? ` from lot ${shown(named.lot)}` : ''}.`,
      named.lot ? shown(named.lot) : product.code
    );
    return null;
  }
  function withinLot(serial: KnownMark, lot: string): boolean {
    return serial.lotId !== null && findMark(snapshot, product, 'lot', lot)?.id === serial.lotId;
  }
  function nothingUnnumbered(): void {
    faults.add(
      'stock.short',
      path,
      product.plan.identity === 'none'
        ? `There is no ${product.code} ${product.name} on hand. Receive it first.`
        : `There is no ${product.code} ${product.name} on hand without its number. Name which ${product.plan.identity === 'lot' ? 'lot' : 'serial'} it is.`,
      product.code
    );
  }
  function unknown(wanted: Identity): void {
    const other = snapshot.elsewhere.get(codeKey(wanted.number));
    if (other?.now)
      faults.add(
        'mark.unknown',
        path,
        `${wanted.number} of ${other.product} was amended and is ${other.now} now. Give that number.`,
        wanted.number
      );
    else if (other)
      faults.add(
        'mark.wrong-product',
        path,
        `${wanted.number} is a ${other.kind} of ${other.product}, not of ${product.code} ${product.name}. Take a ${product.code}.`,
        wanted.number
      );
    else
      faults.add(
        'mark.unknown',
        path,
        `There is no ${wanted.kind} ${wanted.number} of ${product.code} ${product.name}. Check the number, or receive or build it first.`,
        wanted.number
      );
  }
  function short(wanted: Identity, ofRef: MarkRef, amount: Quantity): void {
    const name = nameOf({ kind: wanted.kind, number: wanted.number }, product);
    const lies = available.describe(ofRef);
    const here = only
      ? `${formatQuantity(available.amount(ofRef, only))} at ${only.code}`
      : formatQuantity(available.amount(ofRef));
    const message =
      wanted.kind === 'serial'
        ? lies
          ? `${name} of ${product.code} lies at ${lies.replace(/ 1$/, '')}, not at ${only?.code}. Take it from there, or take another.`
          : `${name} of ${product.code} is not on hand: ${sayGone(snapshot.gone.get(ofRef))}. Take another.`
        : `${name}${wanted.kind === 'bulk' ? '' : ` of ${product.code}`} is short: ${formatQuantity(amount)} ${product.unit} asked, ${here} there${only && lies && !available.amount(ofRef).eq(available.amount(ofRef, only)) ? ` (in all: ${lies})` : ''}. Take less, or take the rest from another ${wanted.kind === 'lot' ? 'lot' : 'place'}.`;
    faults.add('stock.short', path, message, wanted.number || product.code);
  }
}

/** Where a serial went, as the rest of a sentence. */
export function sayGone(gone: Gone | undefined): string {
  if (!gone) return 'it was used, shipped or scrapped';
  const when = `on ${sayDay(gone.day)}, ${gone.document}`;
  if (gone.into) return `it is inside ${gone.into} since ${sayDay(gone.day)}, ${gone.document}`;
  if (gone.kind === 'ship')
    return `it was shipped${gone.partner ? ` to ${gone.partner}` : ''} ${when}`;
  return gone.kind === 'scrap'
    ? `it was scrapped ${when}`
    : gone.kind === 'reversal'
      ? `the booking that made it was taken back ${when}`
      : `it left by ${gone.kind} ${when}`;
}

/** `groups[0].inputs[2]` → `unit 1, component 3`; `lines[1].marks[4]` → `line 2, row 5`. */
export function sayPath(path: string): string {
  const names: Record<string, string> = {
    shared: 'part of the batch',
    sources: 'source',
    results: 'result',
    units: 'unit',
    parts: 'part',
    groups: 'unit',
    inputs: 'component',
    outputs: 'output',
    lines: 'line',
    marks: 'row'
  };
  return [...path.matchAll(/(\w+)\[(\d+)\]/g)]
    .map(([, name, index]) => `${names[name!] ?? name} ${Number(index) + 1}`)
    .join(', ');
}
