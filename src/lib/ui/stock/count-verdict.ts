import { formatQuantity } from '../../core/quantity/quantity.ts';
import { offBy, type CountLine } from '../../core/stock/count-line.ts';

/** What the screens of a count ask of a line. */
export type Judged = Pick<CountLine, 'counted' | 'seen' | 'elsewhere' | 'mark'>;

/** Whether a line was counted and was not what the ledger said then. */
export const differsFrom = ({ counted, seen }: Judged): boolean =>
  counted !== null && counted !== seen;

/** By how much a line was off: `+2`, `-0.5`. */
export function sayOff(line: Judged): string {
  const by = offBy(line);
  return `${by.gt(0) ? '+' : ''}${formatQuantity(by)}`;
}

/** Why more may lie there than was known; empty where nothing explains it. */
export function sayWhyMore({ elsewhere, mark }: Judged): string {
  if (elsewhere) return `lies at ${elsewhere} by the ledger`;
  return mark === null ? 'never known' : '';
}
