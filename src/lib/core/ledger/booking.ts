import type { Quantity } from '../quantity/quantity.ts';
import type { FactValues } from '../catalogue/facts.ts';
import type { Fault, Faults, Note, Remark } from '../faults/fault.ts';
import { inOrder } from '../faults/in-order.ts';
import type { Snapshot } from './snapshot.ts';
import type { MarkKind } from '../catalogue/marking.ts';
import type { ChangedField } from './changed-field.ts';

/**
 * A mark in the rows to write: an existing mark's id, or −1, −2 … for the first, second … of
 * `newMarks`.
 */
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
  retestOn: string | null;
  warrantyMonths: number | null;
  facts: FactValues;
  /** Born by giving a number to stock that had none, in the event before the booking's own. */
  byIdentify?: true;
}

export interface MovementRow {
  mark: MarkRef;
  placeId: number;
  quantity: Quantity;
  unitCost?: Quantity;
}
export interface TransformationRow {
  /** What went into several together; its outputs are made by others of the same booking. */
  shared?: true;
  inputs: { mark: MarkRef; quantity: Quantity; position?: string }[];
  outputs: { mark: MarkRef; quantity: Quantity; share?: Quantity }[];
}
export interface ChangeRow {
  mark: MarkRef;
  field: ChangedField;
  fact?: string;
  from: string | null;
  to: string | null;
}

/** A part and the unit it goes into, or comes out of. */
export interface FittedRow {
  part: MarkRef;
  host: MarkRef;
  position: string | null;
  quantity: Quantity;
}

/** The exact rows of one booking, decided before anything is written. */
export interface Rows {
  partnerId: number | null;
  orderId: number | null;
  newMarks: NewMark[];
  movements: MovementRow[];
  transformations: TransformationRow[];
  changes: ChangeRow[];
  /**
   * What gave numbers to unnumbered stock on the way; written as an event of kind identify before
   * the booking's own.
   */
  identified: { movements: MovementRow[]; transformations: TransformationRow[] };
  /** What was lost on the way; written as an event of kind scrap after the booking's own. */
  scrapped: { movements: MovementRow[]; reason: string } | null;
  /** Parts of the bill that were not named: by index of the transformation. */
  gaps: {
    transformation: number;
    mark: MarkRef;
    componentId: number;
    wanted: Quantity;
    used: Quantity;
  }[];
  /** The event this takes back, and its transformations that no longer hold. */
  reverses: { event: number; transformations: number[] } | null;
  /** Parts put into a unit, and taken out of one. */
  fittings: FittedRow[];
  removals: FittedRow[];
  /** Cartons and pallets to be made; named −1, −2 … in `packings`. */
  newUnits: { kind: 'carton' | 'pallet'; orderId: number | null }[];
  packings: { unit: number; mark?: MarkRef; child?: number; quantity: Quantity }[];
  /** Cartons and pallets that leave. */
  shippedUnits: number[];
  /** Cartons and pallets that come back with the shipment that is taken back. */
  unitsBack: number[];
  /** What one of a mark cost when it came in by an event, or is worth from now on. */
  told: { mark: MarkRef; ofEvent: number | null; unitCost: Quantity }[];
  /** Which shipments what comes back left by. */
  returned: { mark: MarkRef; shipmentId: number; quantity: Quantity }[];
  /** Faults gone on in spite of, with their reasons. */
  remarks: readonly Remark[];
  /** Versions of the plans the booking was decided by, for each product. */
  plans: { productId: number; version: number }[];
  /** The marks the booking answers with, in the order of the request. */
  answer: MarkRef[];
}

export type Decision =
  { ok: true; rows: Rows; notes: Note[] } | { ok: false; faults: Fault[]; notes: Note[] };

/** What somebody is told whose sheet is not booked yet. */
export interface Verdict {
  faults: Fault[];
  notes: Note[];
}

export const verdictOf = (decision: Decision): Verdict => ({
  faults: decision.ok ? [] : decision.faults,
  notes: decision.notes
});

export const emptyRows = (): Rows => ({
  partnerId: null,
  orderId: null,
  newMarks: [],
  movements: [],
  transformations: [],
  changes: [],
  identified: { movements: [], transformations: [] },
  scrapped: null,
  gaps: [],
  fittings: [],
  removals: [],
  newUnits: [],
  packings: [],
  shippedUnits: [],
  unitsBack: [],
  told: [],
  returned: [],
  reverses: null,
  remarks: [],
  plans: [],
  answer: []
});

/** Adds a mark to be made and answers how the other rows name it. */
export function addNewMark(rows: Rows, mark: NewMark): MarkRef {
  rows.newMarks.push(mark);
  return -rows.newMarks.length;
}

/**
 * The decision once everything was looked at: refused with all faults, or the rows with what was
 * gone on in spite of.
 */
export function decided(rows: Rows, faults: Faults, snapshot: Snapshot): Decision {
  if (faults.list.length > 0)
    return { ok: false, faults: inOrder(faults.list), notes: faults.notes };
  rows.answer = [...new Set(rows.answer)];
  rows.remarks = faults.remarks;
  rows.plans = [...snapshot.products.values()].flatMap(({ id, planVersion }) =>
    planVersion === null ? [] : [{ productId: id, version: planVersion }]
  );
  return { ok: true, rows, notes: faults.notes };
}
