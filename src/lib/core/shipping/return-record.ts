import type { ListedMark } from '../catalogue/listed-mark.ts';

/** What came back of one mark by one return, and how it stands now. */
export interface ReturnRecord extends ListedMark {
  event: number;
  document: string;
  day: string;
  partner: string | null;
  reason: string | null;
  mark: number;
  quantity: string;
  soldOn: string;
  /** Nothing of it is on hand any more. */ gone: boolean;
}
