import type { MarkKind, MarkState } from './marking.ts';

/** A lot, serial or goods without number as a list names it. */
export interface ListedMark {
  kind: MarkKind;
  number: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
}
