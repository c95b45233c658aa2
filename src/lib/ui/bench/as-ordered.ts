import { firstExpiredFirst, type Candidate } from '../../core/stock/first-expired.ts';
import { formatQuantity, quantity, ZERO, type Quantity } from '../../core/quantity/quantity.ts';
import { fewOf } from '../parts/say.ts';
import type { Row } from './grid.ts';
import {
  announcedOpen,
  announcedRow,
  inUnit,
  isBlank,
  keyOf,
  lacksNumber,
  mayComeLater,
  rowKind,
  stillToMark,
  type Mode,
  type SheetLine
} from './line-rows.ts';

/** A lot, serial or stock without number on the shelf. */
export interface OnShelf extends Candidate {
  kind: 'lot' | 'serial' | 'bulk';
  /** It lies in quarantine: free for nothing. */
  quarantine?: boolean;
}
interface Given {
  rows: readonly Row[];
  /** The unit the line is counted in, where that is not its own. */
  unit?: string | undefined;
  /** What of the line's product is there, soonest expiry first. */
  shelf: readonly OnShelf[];
  /** `YYYY-MM-DD`. */
  today: string;
}

/** Rows of a line that say something. */
export const givenRows = (rows: readonly Row[], line: SheetLine, mode: Mode): Row[] =>
  rows.filter((row) => !isBlank(row, line, mode) || lacksNumber(row, line, mode));

/** What leaves first of what is still to take of a line, as rows after those that stand there. */
export function withFirstExpired(line: SheetLine, { rows, unit, shelf, today }: Given): Row[] {
  const key = keyOf(line, 'ship');
  const taken = new Set(rows.map((row) => (row[key] ?? '').trim().toUpperCase()));
  const free = shelf.filter(
    (one) => one.kind !== 'bulk' && !one.quarantine && !taken.has(one.number.toUpperCase())
  );
  const wanted = quantity(stillToMark(rows, line, 'ship', unit));
  // A lot that lies at several places is one row.
  const picks = new Map<string, Quantity>();
  for (const pick of firstExpiredFirst(free, wanted, today).picks)
    picks.set(pick.number, (picks.get(pick.number) ?? ZERO).plus(pick.quantity));
  return [
    ...givenRows(rows, line, 'ship'),
    ...[...picks].map(([number, amount]): Row =>
      key === 'lot'
        ? { lot: number, quantity: inUnit(formatQuantity(amount), line, unit) }
        : { serial: number }
    )
  ];
}

/**
 * A line filled with what its order says, as far as that can be known: a quantity where there are
 * no numbers, numbers that were announced, what leaves first. A quantity that was typed stands.
 * @returns its rows, or how much arrived where numbers come later; null where nothing is still to
 * mark, or where somebody has to say which numbers they are
 */
export function asOrdered(
  line: SheetLine,
  mode: Mode,
  given: Given
): { rows: Row[] } | { arrived: string } | null {
  if (stillToMark(given.rows, line, mode, given.unit) === '0') return null;
  const before = givenRows(given.rows, line, mode);
  if (rowKind(line, mode) === 'amount')
    return before.length > 0 ? null : { rows: [{ quantity: inUnit(line.left, line, given.unit) }] };
  if (mode === 'ship') {
    const rows = withFirstExpired(line, given);
    return rows.length > before.length ? { rows } : null;
  }
  const announced = announcedOpen(given.rows, line).map(announcedRow);
  if (announced.length > 0) return { rows: [...before, ...announced] };
  return mayComeLater(line, mode) ? { arrived: line.left } : null;
}

/** What stands on a sheet, by line. */
interface Sheet {
  rows: Record<string, Row[]>;
  arrived: Record<string, string>;
}
interface Knowing {
  units: Record<string, string>;
  shelfOf: (product: string) => readonly OnShelf[];
  /** `YYYY-MM-DD`. */
  today: string;
}

/**
 * Every line of a sheet filled as ordered, as far as that can be known.
 * @returns the sheet as it is then, and products of the lines that are open still
 */
export function fillAll(
  lines: readonly SheetLine[],
  mode: Mode,
  sheet: Sheet,
  { units, shelfOf, today }: Knowing
): Sheet & { open: string[] } {
  const rows = { ...sheet.rows };
  const arrived = { ...sheet.arrived };
  const open: string[] = [];
  for (const line of lines) {
    const { line: key, product } = line;
    const unit = units[key];
    const how = asOrdered(line, mode, {
      rows: rows[key] ?? [],
      unit,
      shelf: shelfOf(product),
      today
    });
    if (how && 'rows' in how) rows[key] = how.rows;
    if (how && 'arrived' in how) arrived[key] = arrived[key]?.trim() ? arrived[key] : how.arrived;
    else if (stillToMark(rows[key] ?? [], line, mode, unit) !== '0') open.push(product);
  }
  return { rows, arrived, open };
}

const NAMED = 4;

/**
 * What became of filling all lines.
 * @param open products of the lines that wait for a number or a quantity all the same
 * @param verb what is done next: `Book in`
 */
export const sayFilled = (lines: number, open: readonly string[], verb: string): string =>
  open.length === 0
    ? `All lines stand as ordered: look them over, then ${verb.toLowerCase()}.`
    : `${lines - open.length} of ${lines} lines stand as ordered. Still open: ${fewOf(open, NAMED)}.`;
