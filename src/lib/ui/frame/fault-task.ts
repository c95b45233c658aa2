import type { FaultCode } from '../../core/faults/fault-codes.ts';

/** The task of docs/using.md that mends a fault, by its code: the heading's words. */
const TASK_OF: Readonly<Record<FaultCode, string>> = {
  'mark.missing': 'Receive',
  'mark.duplicate': 'Receive',
  'mark.unknown': 'Find anything',
  'mark.wrong-product': 'Find anything',
  'mark.held': 'Quality: hold, release, reject, scrap',
  'mark.rejected': 'Quality: hold, release, reject, scrap',
  'mark.expired': 'Amend',
  'mark.off-spec': 'Quality: specs, tests, certificates',
  'mark.reserved': 'Choosing which lot goes',
  'stock.short': 'What lies here, and what happened to it',
  'quantity.mismatch': 'Receive',
  'quantity.not-whole': 'Set up',
  'number.malformed': 'Receive',
  'balance.open': 'Repack and take apart',
  'fact.missing': 'Receive',
  'date.missing': 'Days and codes',
  'order.closed': 'Enter an order',
  'product.unknown': 'Set up',
  'place.unknown': 'Set up',
  'partner.unknown': 'Set up',
  'right.missing': 'Who may do what',
  'event.moved-on': 'What lies here, and what happened to it',
  'part.absent': 'Build',
  'part.fitted': 'Build',
  'time.order': 'Days and codes',
  'place.quarantine': 'Quality: hold, release, reject, scrap',
  'wish.unmet': 'Ship',
  'count.closed': 'Count',
  'approval.missing': 'Sign',
  'transfer.unknown': 'Transfer between sites',
  'cost.missing': 'What it costs, and what stock is worth',
  'signature.missing': 'Sign'
};

/** What mends a fault, as a heading of docs/using.md; null for a code that is none of a booking's. */
export const taskOf = (code: string): string | null =>
  Object.hasOwn(TASK_OF, code) ? TASK_OF[code as FaultCode] : null;

/** The tasks that faults name, to be checked against docs/using.md. */
export const FAULT_TASKS: readonly string[] = [...new Set(Object.values(TASK_OF))];
