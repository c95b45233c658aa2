import type { MarkKind, Marking } from './marking.ts';
import { hasSerials } from './plan.ts';

/**
 * What is on hand of a product by kind of mark: how much in all, as text with its unit, and how
 * many marks.
 */
export type OnHandByKind = Readonly<Partial<Record<MarkKind, { amount: string; marks: number }>>>;

/**
 * What changing a product's identity would mean. `owes` is stock that would have no number and
 * needs one.
 */
export interface IdentityChange {
  may: boolean;
  says: string[];
  owes: { kind: 'bulk' | 'lot'; amount: string } | null;
}

export const SAY_IDENTITY: Record<Marking, string> = {
  none: 'by quantity only',
  lot: 'by lot',
  serial: 'by serial',
  'serial-in-lot': 'by serial within lot'
};

/**
 * Explains a change of identity before it is made. To a finer one it may always be made: what is on
 * hand keeps its marks, and what has no number as the new identity wants it is given one by
 * *identify*. To a coarser one only when nothing is on hand under numbers that nobody would be
 * asked for any more: it could neither be used nor shipped.
 */
export function identityChange(
  product: string,
  from: Marking,
  to: Marking,
  onHand: OnHandByKind
): IdentityChange {
  if (from === to) return { may: true, says: [], owes: null };
  const says: string[] = [];
  const { bulk, lot, serial } = onHand;
  const stuck =
    serial && !hasSerials(to)
      ? { what: `${count(serial.marks, 'serial')} of ${product}`, ask: 'serial' }
      : lot && to === 'none'
        ? { what: `${lot.amount} of ${product} in ${count(lot.marks, 'lot')}`, ask: 'lot' }
        : null;
  if (stuck) {
    return {
      may: false,
      owes: null,
      says: [
        `${stuck.what} ${serial && serial.marks === 1 ? 'is' : 'are'} on hand under ${stuck.ask} numbers. Marked ${SAY_IDENTITY[to]}, nobody would be asked for them and they could not be used or shipped.`,
        `Use them up, ship or scrap them first, or set up a new product for what is to be marked ${SAY_IDENTITY[to]}.`
      ]
    };
  }
  says.push(
    'What is booked already stays as it is: the ledger and every trace keep the numbers they have.'
  );
  if (from === 'none')
    says.push(`Every booking from now on asks for a ${hasSerials(to) ? 'serial' : 'lot'}.`);
  if (from === 'serial-in-lot' && to === 'serial')
    says.push('New serials have no lot any more; those that have one keep it.');
  if (from === 'serial' && to === 'serial-in-lot')
    says.push(
      'New serials need a lot; those on hand have none and can be used and shipped without.'
    );
  const owes = bulk
    ? { kind: 'bulk' as const, amount: bulk.amount }
    : lot && hasSerials(to)
      ? { kind: 'lot' as const, amount: lot.amount }
      : null;
  if (owes)
    says.push(
      `${owes.amount} ${owes.kind === 'bulk' ? 'without number' : 'kept by lot'} ${owes.kind === 'bulk' ? 'is' : 'are'} on hand. Until it is given ${hasSerials(to) ? 'serials' : 'lots'} it can only be used where the plan lets the number come later; it waits on Today.`
    );
  return { may: true, says, owes };
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
