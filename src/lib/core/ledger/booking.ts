import type { Quantity } from '../quantity/quantity.ts';
import type { Fault, Note } from './fault.ts';
import type { MarkKind } from './snapshot.ts';

/** A mark in the rows to write: an existing mark's id, or −1, −2 … for the first, second … of `newMarks`. */
export type MarkRef = number;

export interface NewMark {
  productId: number;
  kind: MarkKind;
  number: string | null;
  /** The lot it is within. */
  lot: MarkRef | null;
  supplierNumber: string | null;
  madeOn: string | null;
  expiresOn: string | null;
  warrantyMonths: number | null;
}

export interface MovementRow { mark: MarkRef; placeId: number; quantity: Quantity }
export interface TransformationRow { inputs: { mark: MarkRef; quantity: Quantity }[]; outputs: { mark: MarkRef; quantity: Quantity; share?: Quantity }[] }
export interface ChangeRow { mark: MarkRef; field: 'state'; from: string; to: string }

/** The exact rows of one booking, decided before anything is written. */
export interface Rows {
  partnerId: number | null;
  orderId: number | null;
  newMarks: NewMark[];
  movements: MovementRow[];
  transformations: TransformationRow[];
  changes: ChangeRow[];
  /** The marks the booking answers with, in the order of the request. */
  answer: MarkRef[];
}

export type Decision = { ok: true; rows: Rows; notes: Note[] } | { ok: false; faults: Fault[]; notes: Note[] };

export const emptyRows = (): Rows => ({ partnerId: null, orderId: null, newMarks: [], movements: [], transformations: [], changes: [], answer: [] });

/** Adds a mark to be made and answers how the other rows name it. */
export function addNewMark(rows: Rows, mark: NewMark): MarkRef {
  rows.newMarks.push(mark);
  return -rows.newMarks.length;
}
