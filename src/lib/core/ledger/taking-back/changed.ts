import type { MarkRef } from '../booking.ts';
import type { KnownChange } from '../snapshot.ts';
import { knownOf, sayLater, sayMark, tellMovedOn, type Undoing } from './undoing.ts';

const SAYS: Record<KnownChange['field'], string> = {
  state: 'state',
  number: 'number',
  expires_on: 'expiry',
  made_on: 'day it was made',
  retest_on: 'retest date',
  supplier_number: 'supplier number',
  fact: 'fact'
};

/**
 * What an event changed of marks is as it was before: only while it still says what the event made
 * it say.
 * Faults: event.moved-on, mark.duplicate where the old number was given to other goods since.
 */
export function takeChangesBack(undoing: Undoing, chosen: ReadonlySet<MarkRef>): void {
  for (const change of undoing.event.changes)
    if (chosen.has(change.mark)) changeBack(undoing, change);
}

function changeBack(undoing: Undoing, change: KnownChange): void {
  const { mark, field, fact, from, to, now, free } = change;
  const what = fact ?? SAYS[field];
  if (now !== to) {
    const message = `The ${what} of ${sayMark(undoing, mark)} is ${now ?? 'empty'} now, not ${to ?? 'empty'}; ${sayLater(undoing, mark)}`;
    return tellMovedOn(undoing, mark, message);
  }
  if (!free) {
    const message = `${from} was given to other goods of ${knownOf(undoing, mark).product.code} since. Amend that number first.`;
    return undoing.faults.add('mark.duplicate', 'event', message, from ?? undefined);
  }
  undoing.rows.changes.push({
    mark,
    field,
    ...(fact === null ? {} : { fact }),
    from: to,
    to: from
  });
}
