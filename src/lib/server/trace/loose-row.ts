import type { MarkKind } from '../../core/catalogue/marking.ts';

/** A mark with something loose about it, as the audit reads it. */
export interface LooseRow {
  id: number;
  kind: MarkKind;
  number: string | null;
  product: string;
  unit: string;
  /** `YYYY-MM-DD`. */
  since: string | null;
  /** A decimal string; of some kinds the id of the event. */
  amount: string;
  /** What is to be said of it, where the row knows it. */
  says?: string;
  /** How many rows of its kind there are, listed or not. */
  total: number;
}

/** At most this many of each kind are listed. */
export const MOST_LISTED = 200;
