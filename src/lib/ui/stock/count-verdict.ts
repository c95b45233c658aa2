import { formatQuantity, quantity } from '../../core/quantity/quantity.ts';

/** What the screens of a count ask of a line. */
export interface Judged {
  counted: string | null;
  seen: string | null;
  elsewhere: string | null;
  mark: number | null;
}

/** Whether a line was counted and was not what the ledger said then. */
export const differsFrom = ({ counted, seen }: Judged): boolean =>
  counted !== null && counted !== seen;

/** By how much a line was off: `+2`, `-0.5`. */
export function sayOff({ counted, seen }: Judged): string {
  const by = quantity(counted ?? '0').minus(seen ?? '0');
  return `${by.gt(0) ? '+' : ''}${formatQuantity(by)}`;
}

/** Why more may lie there than was known; empty where nothing explains it. */
export function sayWhyMore({ elsewhere, mark }: Judged): string {
  if (elsewhere) return `lies at ${elsewhere} by the ledger`;
  return mark === null ? 'never known' : '';
}
