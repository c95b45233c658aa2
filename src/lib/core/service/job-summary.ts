import type { JobState } from './job-state.ts';

/** A job in a list or on the board. */
export interface JobSummary {
  number: string;
  state: JobState;
  product: string;
  productName: string;
  serial: string;
  mark: number | null;
  customerName: string;
  fault: string;
  promised: string | null;
  openedAt: string;
  underWarranty: boolean | null;
}
