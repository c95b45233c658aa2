import type { MarkKind } from '../catalogue/marking.ts';
import { Faults } from '../faults/fault.ts';
import { Births } from '../ledger/birth.ts';
import { emptyRows, type MarkRef, type Rows } from '../ledger/booking.ts';
import type { Identity } from '../ledger/identity.ts';
import type { Receipt, ReceivedMark } from '../ledger/request.ts';
import { markGroup, type KnownMark, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';
import { total, type Quantity } from '../quantity/quantity.ts';

/** A row of a line with what it was read as; `rest` is the remainder whose numbers come later. */
export interface ReceivedRow {
  mark: ReceivedMark;
  identity: Identity;
  quantity: Quantity;
  path: string;
  line: number;
  at: number;
  rest: boolean;
  /** How the rows name its mark, once it has one. */
  ref: MarkRef | null;
}

/** What is known of one kind of mark of a product, and the rows of this sheet that name one. */
export interface Seen {
  known: ReadonlyMap<string, KnownMark> | undefined;
  rows: Map<string, ReceivedRow>;
}

/** How goods come in: now, from a supplier, or as what lay here before Earmark. */
export type Coming = 'receipt' | 'opening';

/** One receipt being decided: what is known, what is asked, and what has come of it so far. */
export interface ReceivingSheet {
  coming: Coming;
  snapshot: Snapshot;
  request: Pick<Receipt, 'lines' | 'reasons'>;
  faults: Faults;
  rows: Rows;
  births: Births;
  /** By the product's id. */
  seen: Map<number, Record<MarkKind, Seen>>;
}

/** A receipt or opening about to be decided: nothing has come of it yet. */
export function sheetOf(
  coming: Coming,
  snapshot: Snapshot,
  request: ReceivingSheet['request']
): ReceivingSheet {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const births = new Births(snapshot, rows, faults);
  return { coming, snapshot, request, faults, rows, births, seen: new Map() };
}

/** What this sheet has seen of a product, by kind of mark and folded number. */
export function seenOf(sheet: ReceivingSheet, product: KnownProduct): Record<MarkKind, Seen> {
  const before = sheet.seen.get(product.id);
  if (before) return before;
  const group = (kind: MarkKind): Seen => ({
    known: sheet.snapshot.marks.get(markGroup(product.id, kind)),
    rows: new Map()
  });
  const groups = { lot: group('lot'), serial: group('serial'), bulk: group('bulk') };
  sheet.seen.set(product.id, groups);
  return groups;
}

/** `row 2 of line 1`, as the person who typed it counts. */
export function sayRow({ request }: ReceivingSheet, { line, at, rest }: ReceivedRow): string {
  if (rest) return 'what is left';
  return `row ${at + 1}${request.lines.length > 1 ? ` of line ${line + 1}` : ''}`;
}

export const sumOf = (rows: readonly ReceivedRow[]): Quantity => total(quantitiesOf(rows));
function* quantitiesOf(rows: readonly ReceivedRow[]): Iterable<Quantity> {
  for (const row of rows) yield row.quantity;
}
