import type { MarkKind } from '../catalogue/marking.ts';
import { quantity, type Quantity } from '../quantity/quantity.ts';

/** One number at one place: what should lie there, and what was found. */
export interface CountLine {
  product: string;
  name: string;
  unit: string;
  place: string;
  kind: MarkKind;
  lot: string | null;
  serial: string | null;
  mark: number | null;
  /** What the ledger says lies there now. */
  expected: string;
  counted: string | null;
  /** What the ledger said when it was counted. */
  seen: string | null;
  by: string | null;
  at: string | null;
  /** By the ledger a serial that was found here lies there. */
  elsewhere: string | null;
}

/** By how much a line was off when it was counted; above zero where more lay there. */
export const offBy = ({ counted, seen }: Pick<CountLine, 'counted' | 'seen'>): Quantity =>
  quantity(counted ?? '0').minus(seen ?? '0');
