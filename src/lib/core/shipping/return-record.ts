import type { MarkKind, MarkState } from '../catalogue/marking.ts';

/** What came back of one mark by one return, and how it stands now. */
export interface ReturnRecord {
  event: number;
  document: string;
  day: string;
  partner: string | null;
  reason: string | null;
  mark: number;
  kind: MarkKind;
  number: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  quantity: string;
  soldOn: string;
  /** Nothing of it is on hand any more. */ gone: boolean;
}
