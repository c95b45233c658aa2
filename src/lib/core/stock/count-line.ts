import type { MarkKind } from '../catalogue/marking.ts';

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
