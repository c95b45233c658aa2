import type { Decision } from '../ledger/booking.ts';
import { Faults, type Fault } from '../faults/fault.ts';
import { findMark, whereItLies } from '../ledger/lookup.ts';
import type { Move, MoveLine, Wants } from '../ledger/request.ts';
import { codeKey, type KnownMark, type Snapshot } from '../ledger/snapshot.ts';
import type { MarkKind } from '../catalogue/marking.ts';
import { sayGone } from '../ledger/use-mark.ts';
import { decideMove, moveWants } from './decide-move.ts';

/** Goods that leave a site, or arrive at one, on a transfer. */
export interface Transfer extends Move {
  kind: 'transfer';
  /** Whether they leave or arrive; the site they do it at; the transfer’s own place. */
  leg: 'dispatch' | 'arrival';
  site: string;
  way: string;
}

export const transferWants = (request: Transfer): Wants => {
  const wants = moveWants(request);
  return { ...wants, places: [...wants.places, request.way] };
};

/**
 * Decides a leg of a transfer: a move onto the way, or off it.
 * Faults: those of a move; place.unknown for a place of another site, transfer.unknown for what is
 * not on the way.
 */
export function decideTransfer(snapshot: Snapshot, request: Transfer): Decision {
  const faults = request.lines.flatMap((line, index) => [
    ...atAnotherSite(snapshot, request, line, index),
    ...notOnTheWay(snapshot, request, line, index)
  ]);
  if (faults.length > 0) return { ok: false, faults, notes: [] };
  return decideMove(snapshot, request);
}

function atAnotherSite(
  { places }: Snapshot,
  { leg, site, document }: Transfer,
  { from, to }: MoveLine,
  index: number
): Fault[] {
  const [code, path] = leg === 'dispatch' ? [from, 'place'] : [to, 'place'];
  const place = places.get(codeKey(code));
  if (!place || place.site === site) return [];
  const faults = new Faults();
  const message =
    leg === 'dispatch'
      ? `${place.code} is at ${place.site}, and ${document} leaves ${site}. Name a place there.`
      : `${place.code} is at ${place.site}, and ${document} goes to ${site}. Book it in there.`;
  faults.add('place.unknown', leg === 'dispatch' ? `lines[${index}].${path}` : path, message, code);
  return faults.list;
}

/** What arrives must be on the way: it may have arrived already, or never have left. */
function notOnTheWay(
  snapshot: Snapshot,
  { leg, way, document }: Transfer,
  line: MoveLine,
  index: number
): Fault[] {
  const product = snapshot.products.get(codeKey(line.product));
  const number = (line.serial ?? line.lot ?? '').trim();
  if (leg === 'dispatch' || !product) return [];
  const mark = findMark(snapshot, product, kindOf(line), number);
  if (!mark || snapshot.stock.get(mark.id)?.has(codeKey(way))) return [];
  const name = number === '' ? product.code : `${number} of ${product.code}`;
  const where = whereNow(snapshot, mark);
  const faults = new Faults();
  const message = `${name} is not on the way with ${document}: ${where}. Leave it out, or count it where it is.`;
  faults.add('transfer.unknown', `lines[${index}]`, message, number || product.code);
  return faults.list;
}

function kindOf({ lot, serial }: MoveLine): MarkKind {
  if (serial?.trim()) return 'serial';
  return lot?.trim() ? 'lot' : 'bulk';
}

/** Where a mark is that is not on the way, as the rest of a sentence. */
function whereNow(snapshot: Snapshot, mark: KnownMark): string {
  const lies = whereItLies(snapshot, mark);
  if (lies) return `it lies at ${lies}`;
  const gone = snapshot.gone.get(mark.id);
  return gone ? sayGone(gone) : 'it never left';
}
