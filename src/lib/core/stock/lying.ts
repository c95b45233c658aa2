import type { MarkKind, MarkState } from '../catalogue/marking.ts';

/** A mark at one place it lies at, and how much of it. */
export interface Lying {
  mark: number;
  kind: MarkKind;
  number: string | null;
  /** The lot a serial is within. */
  lot: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  from: string;
  fromName: string;
  quantity: string;
}
