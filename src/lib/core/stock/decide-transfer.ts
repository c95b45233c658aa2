import type { Decision } from '../ledger/booking.ts';
import { Faults } from '../faults/fault.ts';
import { findMark, whereItLies } from '../ledger/lookup.ts';
import type { Move, MoveLine } from '../ledger/request.ts';
import { codeKey, type KnownMark, type Snapshot } from '../ledger/snapshot.ts';
import type { MarkKind } from '../catalogue/marking.ts';
import { sayGone } from '../ledger/use-mark.ts';
import { decideMove, type Reach } from './decide-move.ts';

/** Goods that leave a site, or arrive at one, on a transfer. */
export interface Transfer extends Move {
  kind: 'transfer';
  /** Whether they leave or arrive; the site they do it at; the transfer’s own place. */
  leg: 'dispatch' | 'arrival';
  site: string;
  way: string;
}

/**
 * Decides a leg of a transfer: a move onto the way, or off it.
 * Faults: those of a move; place.unknown for a place of another site, transfer.unknown for what is
 * not on the way.
 */
export function decideTransfer(snapshot: Snapshot, request: Transfer): Decision {
  const faults = new Faults();
  if (request.leg === 'dispatch') mustLeaveFromSite(snapshot, request, faults);
  else mustArriveAtSite(snapshot, request, faults);
  if (faults.list.length > 0) return { ok: false, faults: faults.list, notes: [] };
  return decideMove(snapshot, request, reachOf(request));
}

/** Goods leave from the places of the site they leave, and arrive from the way. */
function reachOf({ leg, site, way, document }: Transfer): Reach {
  if (leg === 'dispatch')
    return {
      way,
      mayLeave: (place) => place.site === site && !place.transit,
      tell: (goods, lies) => ({
        code: 'place.unknown',
        message: `${goods} lies at ${lies}, and ${document} leaves ${site}. Leave the carton out, or look into it.`
      })
    };
  return {
    way,
    mayLeave: (place) => codeKey(place.code) === codeKey(way),
    tell: (goods, lies) => ({
      code: 'transfer.unknown',
      message: notUnderWay(goods, document, `it lies at ${lies}`)
    })
  };
}

function mustLeaveFromSite(
  { places }: Snapshot,
  { lines, site, document }: Transfer,
  faults: Faults
): void {
  lines.forEach(({ from }, index) => {
    const place = places.get(codeKey(from));
    if (!place || place.site === site) return;
    const message = `${place.code} is at ${place.site}, and ${document} leaves ${site}. Name a place there.`;
    faults.add('place.unknown', `lines[${index}].place`, message, from);
  });
}

/** All that arrives is put at one place, so it is told once. */
function mustArriveAtSite(snapshot: Snapshot, request: Transfer, faults: Faults): void {
  const { lines, units = [], site, document } = request;
  for (const code of new Set([...lines, ...units].map(({ to }) => to))) {
    const place = snapshot.places.get(codeKey(code));
    if (!place || place.site === site) continue;
    const message = `${place.code} is at ${place.site}, and ${document} goes to ${site}. Book it in there.`;
    faults.add('place.unknown', 'place', message, code);
  }
  lines.forEach((line, index) =>
    mustBeUnderWay(snapshot, request, line, `lines[${index}]`, faults)
  );
}

/** What arrives must be on the way: it may have arrived already, or never have left. */
function mustBeUnderWay(
  snapshot: Snapshot,
  { way, document }: Transfer,
  line: MoveLine,
  path: string,
  faults: Faults
): void {
  const product = snapshot.products.get(codeKey(line.product));
  if (!product) return;
  const number = (line.serial ?? line.lot ?? '').trim();
  const mark = findMark(snapshot, product, kindOf(line), number);
  if (!mark || snapshot.stock.get(mark.id)?.has(codeKey(way))) return;
  const name = number === '' ? product.code : `${number} of ${product.code}`;
  const message = notUnderWay(name, document, whereNow(snapshot, mark));
  faults.add('transfer.unknown', path, message, number || product.code);
}

const notUnderWay = (goods: string, document: string, where: string): string =>
  `${goods} is not on the way with ${document}: ${where}. Leave it out, or count it where it is.`;

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
