import type { Marking } from '../../core/ledger/snapshot.ts';
import { formatQuantity, parseQuantity, quantity, total } from '../../core/quantity/quantity.ts';
import type { Column, Row } from './grid.ts';

/** An order's line as a receive or ship sheet works on it. */
export interface SheetLine { line: number; product: string; name: string; unit: string; marking: Marking; shelfLifeDays: number | null; gtin: string | null; numbersLots: boolean; numbersSerials: boolean; quantity: string; done: string; left: string }
export type Mode = 'receive' | 'ship';

/** What is asked of a row, by how the product is marked. */
export function columnsFor(line: SheetLine, mode: Mode): Column[] {
  const lot: Column = { key: 'lot', label: 'Lot', kind: 'number', inherit: line.marking === 'serial-in-lot' };
  const serial: Column = { key: 'serial', label: 'Serial', kind: 'number' };
  const amount: Column = { key: 'quantity', label: `Quantity, ${line.unit}`, kind: 'quantity', width: '110px' };
  const expires: Column = { key: 'expires', label: 'Expires', kind: 'date', width: '128px', inherit: true };
  const theirs: Column = { key: 'supplierNumber', label: 'Their number', kind: 'text' };
  if (line.marking === 'none') return [amount];
  if (mode === 'ship') return line.marking === 'lot' ? [lot, amount] : [serial];
  const dated = line.shelfLifeDays === null ? [] : [expires];
  if (line.marking === 'lot') return [lot, amount, ...dated, theirs];
  return line.marking === 'serial' ? [serial, ...dated] : [lot, serial, ...dated];
}

export const isBlank = (row: Row | undefined, line: SheetLine): boolean =>
  !row || (line.marking === 'none' ? !row.quantity?.trim() : line.marking === 'lot' ? !row.lot?.trim() : !row.serial?.trim());

/** How much a sheet's rows of a line add up to; a serial counts one, what cannot be read counts nothing. */
export function markedQuantity(rows: readonly Row[], line: SheetLine): string {
  const given = rows.filter((row) => !isBlank(row, line));
  if (line.marking === 'serial' || line.marking === 'serial-in-lot') return String(given.length);
  return formatQuantity(total(given.flatMap((row) => parseQuantity(row.quantity ?? '') ?? [])));
}

/** What is still to mark of a line with these rows, never below zero. */
export function stillToMark(rows: readonly Row[], line: SheetLine): string {
  const left = quantity(line.left).minus(markedQuantity(rows, line));
  return left.lt(0) ? '0' : formatQuantity(left);
}

/** The line of the booking, and which row each of its marks came from. */
export function lineRequest(rows: readonly Row[], line: SheetLine, mode: Mode): { marks: Record<string, string>[]; quantity: string; rowOf: number[] } | null {
  const rowOf: number[] = [];
  const marks = rows.flatMap((row, index) => {
    if (isBlank(row, line)) return [];
    rowOf.push(index);
    return [Object.fromEntries(columnsFor(line, mode).map(({ key }) => [key, row[key]?.trim() ?? '']).filter(([, value]) => value !== ''))];
  });
  if (marks.length === 0) return null;
  if (line.marking === 'none') return { marks: [], quantity: rows[rowOf[0]!]!.quantity!.trim(), rowOf };
  return { marks, quantity: markedQuantity(rows, line), rowOf };
}
