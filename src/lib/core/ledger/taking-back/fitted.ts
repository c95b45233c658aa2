import { formatQuantity, ZERO } from '../../quantity/quantity.ts';
import type { MarkRef } from '../booking.ts';
import type { KnownFitting } from '../snapshot.ts';
import { sayLater, sayMark, tellMovedOn, type Undoing } from './undoing.ts';

/**
 * Parts that were put into units come out again, and those that were taken out are in again: while
 * the unit lies here and has them, or they lie here.
 * Faults: event.moved-on.
 */
export function takeFittingsBack(undoing: Undoing, chosen: ReadonlySet<MarkRef>): void {
  const { event, rows } = undoing;
  for (const row of event.fittings)
    if (chosen.has(row.part) && mayComeOut(undoing, row)) rows.removals.push(row);
  for (const row of event.removals)
    if (chosen.has(row.part) && isHere(undoing, row.host)) rows.fittings.push(row);
}

function mayComeOut(undoing: Undoing, { part, host, quantity }: KnownFitting): boolean {
  if (!isHere(undoing, host)) return false;
  const inside = undoing.snapshot.asBuilt.get(host)?.find((row) => row.mark === part);
  const left = inside?.left ?? ZERO;
  if (left.gte(quantity)) return true;
  const says = `${formatQuantity(left)} of ${sayMark(undoing, part)} are still in ${sayMark(undoing, host)}`;
  tellMovedOn(undoing, part, `${says}; ${sayLater(undoing, part)}`);
  return false;
}

function isHere(undoing: Undoing, host: MarkRef): boolean {
  if (undoing.available.amount(host).gt(0)) return true;
  const message = `${sayMark(undoing, host)} is no longer here; ${sayLater(undoing, host)}`;
  tellMovedOn(undoing, host, message);
  return false;
}
