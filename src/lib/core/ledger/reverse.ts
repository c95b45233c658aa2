import { groupBy } from '../group-by.ts';
import { Faults } from '../faults/fault.ts';
import { decided, emptyRows, type Decision, type MarkRef } from './booking.ts';
import { Availability } from './draw.ts';
import { findMark, findProduct } from './lookup.ts';
import { checkPromises } from './promises.ts';
import { onePerLine, type Reversal, type Wants } from './request.ts';
import type { KnownEvent, Snapshot } from './snapshot.ts';
import { takeChangesBack } from './taking-back/changed.ts';
import { takeFittingsBack } from './taking-back/fitted.ts';
import { MAKING, madeBy, takeMadeBack } from './taking-back/made.ts';
import { movedBy, takeMovesBack } from './taking-back/moved.ts';
import { takePackingBack, takeUnitsBack } from './taking-back/packages.ts';
import type { Undoing } from './taking-back/undoing.ts';

/** What cannot be taken back, and what mends it instead. */
const NEVER: Readonly<Record<string, string>> = {
  reversal: 'is itself what took another back. Book what happened anew.',
  station: 'is a step on the floor. Put it right at its station.',
  revaluation: 'says what things cost. Tell their cost anew by another revaluation.'
};

export const reversalWants = (request: Reversal): Wants => ({
  products: (request.units ?? []).map((unit) => unit.product),
  places: [],
  partner: null,
  order: null,
  marks: onePerLine(request.units ?? []),
  draws: true,
  event: request.event,
  promises: true,
  packed: true,
  sales: true
});

/**
 * Decides taking an event back, all of it or only what it did to the marks named: what came in or
 * was made leaves again, what left or went in lies again where it was, what was changed says again
 * what it said, what was packed is out. Refused where something has moved on, with the event that
 * stands in the way.
 * Faults: mark.unknown, event.moved-on, balance.open (taken back already), quantity.not-whole,
 * quantity.mismatch, mark.duplicate.
 */
export function decideReversal(snapshot: Snapshot, request: Reversal): Decision {
  // Its own reason answers for what others were promised.
  const faults = new Faults({ 'mark.reserved': request.reason ?? '', ...request.reasons });
  const rows = emptyRows();
  const { event } = snapshot;
  if (!event || !mayBeTakenBack(event, faults)) {
    if (!event)
      faults.add(
        'mark.unknown',
        'event',
        `There is no event ${request.event}.`,
        `${request.event}`
      );
    return decided(rows, faults, snapshot);
  }
  rows.orderId = event.orderId;
  rows.partnerId = event.partnerId;
  const products = new Map([...snapshot.products.values()].map((one) => [one.id, one]));
  const available = new Availability(snapshot);
  const undoing: Undoing = {
    ...{ snapshot, event, rows, faults, available, products },
    moved: groupBy(event.movements, ({ mark }) => mark),
    taken: new Map()
  };
  takeBack(undoing, request);
  checkPromises(snapshot, available, undoing.taken, request.document, faults);
  return decided(rows, faults, snapshot);
}

function mayBeTakenBack(event: KnownEvent, faults: Faults): boolean {
  const never = NEVER[event.kind];
  if (never !== undefined) {
    faults.add('event.moved-on', 'event', `Event ${event.id} ${never}`, `${event.id}`);
    return false;
  }
  if (marksOf(event).size > 0 || (event.packings.length > 0 && !event.undone)) return true;
  const message = `Event ${event.id} has been taken back already.`;
  faults.add('balance.open', 'event', message, `${event.id}`);
  return false;
}

/** Marks of an event whose part in it can still be taken back. */
const marksOf = (event: KnownEvent): Set<MarkRef> =>
  MAKING.has(event.kind) ? madeBy(event) : movedBy(event);

function takeBack(undoing: Undoing, request: Reversal): void {
  const { event } = undoing;
  const chosen = chosenOf(undoing, request, marksOf(event));
  if (MAKING.has(event.kind)) return takeMadeBack(undoing, chosen);
  if (event.packings.length > 0) return takePackingBack(undoing);
  takeMovesBack(undoing, chosen);
  takeFittingsBack(undoing, chosen);
  takeChangesBack(undoing, chosen);
  takeUnitsBack(undoing, chosen);
}

/** The marks of which the event is taken back: those named, or all. */
function chosenOf(
  { snapshot, event, faults }: Undoing,
  { units }: Reversal,
  all: Set<MarkRef>
): ReadonlySet<MarkRef> {
  if (!units) return all;
  const picked = new Set<MarkRef>();
  units.forEach((unit, index) => {
    const path = `units[${index}]`;
    const product = findProduct(snapshot, unit.product, `${path}.product`, faults);
    if (!product) return;
    const serial = unit.serial?.trim();
    const number = serial || unit.lot?.trim() || '';
    const lotOrBulk = number === '' ? 'bulk' : 'lot';
    const mark = findMark(snapshot, product, serial ? 'serial' : lotOrBulk, number);
    const name = number || product.code;
    const did = MAKING.has(event.kind) ? 'made' : 'touched';
    if (mark && all.has(mark.id)) picked.add(mark.id);
    else {
      const message = `${name} was not ${did} by event ${event.id}, or that was taken back already.`;
      faults.add('mark.unknown', path, message, name);
    }
  });
  return picked;
}
