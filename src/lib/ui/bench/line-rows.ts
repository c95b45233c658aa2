import { askedAt, factField, givenIn } from '../../core/catalogue/ask.ts';
import { hasSerials, type Checkpoint, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import {
  formatQuantity,
  parseQuantity,
  quantity,
  ZERO,
  type Quantity
} from '../../core/quantity/quantity.ts';
import type { Column, Row } from './grid.ts';
import { columnOf } from './plan-column.ts';

export interface AnnouncedNumber {
  lot: string | null;
  serial: string | null;
  quantity: string | null;
  expires: string | null;
  supplierNumber: string | null;
  arrived: boolean;
}

/** An order's line as a sheet works on it. */
export interface SheetLine {
  line: number;
  product: string;
  name: string;
  unit: string;
  marking: Marking;
  plan: MarkingPlan;
  shelfLifeDays: number | null;
  gtin: string | null;
  numbersLots: boolean;
  numbersSerials: boolean;
  units: readonly { name: string; holds: string; gtin: string | null }[];
  enteredAs: string | null;
  announced: readonly AnnouncedNumber[];
  decimals: number;
  quantity: string;
  done: string;
  left: string;
  most: string;
  /** Where unnumbered stock lies that is given numbers, and its lot. */
  place?: string;
  lot?: string | null;
}
export type Mode = 'receive' | 'ship' | 'identify';

/**
 * What kind of event a sheet is, for what the plan asks there. Giving numbers asks what a receipt
 * of numbered goods asks.
 */
const planAt = (line: SheetLine, mode: Mode): [MarkingPlan, Checkpoint] =>
  mode === 'identify'
    ? [{ ...line.plan, asks: { ...line.plan.asks, receive: 'always' } }, 'receive']
    : [line.plan, mode];

/** What one row of a line stands for: a serial, a lot with its quantity, or the quantity alone. */
export function rowKind(line: SheetLine, mode: Mode): 'serial' | 'lot' | 'amount' {
  const [plan, checkpoint] = planAt(line, mode);
  if (plan.identity === 'none') return 'amount';
  if (plan.asks[checkpoint] === 'never')
    return plan.identity === 'serial-in-lot' ? 'lot' : 'amount';
  return hasSerials(plan.identity) ? 'serial' : 'lot';
}

/** Whether goods of the line may come in before their numbers. */
export const mayComeLater = (line: SheetLine, mode: Mode): boolean =>
  mode === 'receive' && line.plan.asks.receive === 'optionally' && rowKind(line, mode) !== 'amount';

const WIDTHS: Record<string, string> = { quantity: '92px', date: '124px' };
/**
 * Shown from the start though they may be left empty; every other such column comes when it is
 * asked for.
 */
const USUAL = new Set(['lot', 'serial', 'quantity', 'supplierNumber']);

/**
 * What is asked of a row, as the plan asks it at this kind of event. @param all with the columns
 * that may stay empty
 */
export function columnsFor(line: SheetLine, mode: Mode, all = false): Column[] {
  const [plan, checkpoint] = planAt(line, mode);
  const kind = rowKind(line, mode);
  if (kind === 'amount')
    return [
      { key: 'quantity', label: `Quantity, ${line.unit}`, kind: 'quantity', width: WIDTHS.quantity }
    ];
  return askedAt(plan, checkpoint).flatMap((field): Column[] => {
    if (field.key === 'quantity' && kind === 'serial') return [];
    if (
      field.key === 'lot' &&
      (mode === 'ship' ? kind === 'serial' : mode === 'identify' && !!line.lot)
    )
      return [];
    if (field.key === 'supplierNumber' && kind === 'serial' && !all) return [];
    const usual =
      USUAL.has(field.key) ||
      field.how === 'must' ||
      (field.how === 'fills itself' && field.key === 'expires');
    if (!usual && !all) return [];
    const column = columnOf(plan, field);
    if (field.key === 'quantity') column.label = `Quantity, ${line.unit}`;
    if (ALSO[field.key]) column.also = ALSO[field.key];
    if (WIDTHS[column.kind]) column.width = WIDTHS[column.kind];
    const isChoice = plan.facts.some(
      (fact) => fact.kind === 'choice' && factField(fact.name) === field.key
    );
    if (column.kind === 'date' || (field.key === 'lot' && kind === 'serial') || isChoice)
      column.inherit = true;
    return [column];
  });
}

const ALSO: Record<string, readonly string[]> = {
  lot: ['lot number', 'batch'],
  serial: ['serial number', 'number'],
  quantity: ['quantity', 'qty', 'amount'],
  expires: ['expiry', 'expiry date', 'expires on', 'use by'],
  made: ['made', 'production date'],
  retest: ['retest'],
  supplierNumber: ['supplier number', 'supplier’s number', "supplier's number"]
};

/** The columns that may stay empty and are not shown from the start. */
export const moreColumns = (line: SheetLine, mode: Mode): Column[] => {
  const shown = new Set(columnsFor(line, mode).map((column) => column.key));
  return columnsFor(line, mode, true).filter((column) => !shown.has(column.key));
};

export const keyOf = (line: SheetLine, mode: Mode): 'serial' | 'lot' | 'quantity' =>
  (({ serial: 'serial', lot: 'lot', amount: 'quantity' }) as const)[rowKind(line, mode)];

export const isBlank = (row: Row | undefined, line: SheetLine, mode: Mode): boolean =>
  !row?.[keyOf(line, mode)]?.trim();

/** The quantity a new row begins with is proposed: nobody typed it. */
export const proposedRow = (amount: string): Row => ({ quantity: amount, [PROPOSED]: amount });
const PROPOSED = 'proposed';

/** Whether a row says how much, but not of which: typed or pasted, it is not dropped. */
export function lacksNumber(row: Row | undefined, line: SheetLine, mode: Mode): boolean {
  if (!isBlank(row, line, mode) || keyOf(line, mode) === 'quantity') return false;
  const amount = row?.quantity?.trim() ?? '';
  return amount !== '' && amount !== row?.[PROPOSED];
}

/** Whether a row says nothing of its own. */
const saysNothing = (row: Row, line: SheetLine, mode: Mode): boolean =>
  isBlank(row, line, mode) && !lacksNumber(row, line, mode);

/** How many of the line's own unit one of a unit holds; one for its own. */
const holdsOf = (line: SheetLine, unit: string | undefined): Quantity =>
  quantity(line.units.find((one) => one.name === unit)?.holds ?? '1');

/**
 * How much a sheet's rows of a line add up to in the line's own unit; a serial counts one, what
 * cannot be read counts nothing.
 */
export function markedQuantity(
  rows: readonly Row[],
  line: SheetLine,
  mode: Mode,
  unit?: string
): string {
  const serial = rowKind(line, mode) === 'serial';
  let sum = ZERO,
    count = 0;
  for (const row of rows) {
    if (saysNothing(row, line, mode)) continue;
    if (serial) count++;
    else sum = sum.plus(parseQuantity(row.quantity ?? '') ?? ZERO);
  }
  return serial ? String(count) : formatQuantity(sum.times(holdsOf(line, unit)));
}

/** What is still to mark of a line with these rows, in the line's own unit, never below zero. */
export function stillToMark(
  rows: readonly Row[],
  line: SheetLine,
  mode: Mode,
  unit?: string
): string {
  const left = quantity(line.left).minus(markedQuantity(rows, line, mode, unit));
  return left.lt(0) ? '0' : formatQuantity(left);
}

/** The same in a unit the line is counted in. */
export const inUnit = (amount: string, line: SheetLine, unit: string | undefined): string =>
  formatQuantity(quantity(amount).div(holdsOf(line, unit)).toDecimalPlaces(6));

interface LinePart {
  marks: Record<string, unknown>[];
  quantity: string;
  rowOf: number[];
}

/**
 * The line of the booking, and which row each of its marks came from; null where nothing stands
 * there.
 * @param arrived how much came in, where numbers may come later and so the rows do not say it
 */
export function lineRequest(
  rows: readonly Row[],
  line: SheetLine,
  mode: Mode,
  { arrived }: { arrived?: string } = {}
): LinePart | null {
  const keys = columnsFor(line, mode, true).map((column) => column.key);
  const kind = rowKind(line, mode);
  const rowOf: number[] = [],
    marks: Record<string, unknown>[] = [];
  rows.forEach((row, index) => {
    if (saysNothing(row, line, mode)) return;
    rowOf.push(index);
    marks.push(givenIn(row, keys));
  });
  const later = mayComeLater(line, mode) ? arrived?.trim() : undefined;
  if (marks.length === 0) return later ? { marks: [], quantity: later, rowOf: [] } : null;
  if (kind === 'amount') return { marks: [], quantity: rows[rowOf[0]!]!.quantity!.trim(), rowOf };
  // A line's quantity is in the unit its rows are counted in.
  const sum = markedQuantity(rows, line, mode);
  return { marks, quantity: later && parseQuantity(later)?.gt(sum) ? later : sum, rowOf };
}

/**
 * Announced numbers that are not here yet and not on the sheet; and the rows that take them all
 * over.
 */
export function announcedOpen(rows: readonly Row[], line: SheetLine): AnnouncedNumber[] {
  const given = new Set(
    rows
      .flatMap((row) => [row.serial?.trim().toUpperCase(), row.lot?.trim().toUpperCase()])
      .filter(Boolean)
  );
  return line.announced.filter(
    (one) => !one.arrived && !given.has((one.serial ?? one.lot)!.toUpperCase())
  );
}

/** Numbers on the sheet that were not announced; none where nothing was. */
export function unexpectedNumbers(rows: readonly Row[], line: SheetLine, mode: Mode): string[] {
  if (line.announced.length === 0) return [];
  const known = new Set(
    line.announced.flatMap((one) => [one.serial?.toUpperCase(), one.lot?.toUpperCase()])
  );
  const key = keyOf(line, mode);
  return rows.flatMap((row) => {
    const number = row[key]?.trim();
    return number && !known.has(number.toUpperCase()) ? [number] : [];
  });
}

export const announcedRow = (one: AnnouncedNumber): Row => ({
  ...(one.lot ? { lot: one.lot } : {}),
  ...(one.serial ? { serial: one.serial } : {}),
  ...(one.quantity && !one.serial ? { quantity: one.quantity } : {}),
  ...(one.expires ? { expires: one.expires } : {}),
  ...(one.supplierNumber ? { supplierNumber: one.supplierNumber } : {})
});

/**
 * Splits a quantity over so many lots as evenly as the product's decimals let, the first ones
 * taking what does not divide.
 */
export function splitEvenly(amount: string, parts: number, decimals: number): string[] {
  const step = quantity(1).div(quantity(10).pow(decimals));
  const whole = quantity(amount).div(parts).div(step).floor().times(step);
  let rest = quantity(amount).minus(whole.times(parts));
  return Array.from({ length: parts }, () => {
    const extra = rest.gte(step) ? step : ZERO;
    rest = rest.minus(extra);
    return formatQuantity(whole.plus(extra));
  });
}
