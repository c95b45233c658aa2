import { lineOfPath } from '../../core/faults/line-of-path.ts';
import type { OpeningLine } from '../../core/ledger/request.ts';
import type { Fault, Note } from '../bench/booking-sheet.svelte.ts';
import type { Column, Row, RowVerdict } from '../bench/grid.ts';
import { rowMessage } from '../bench/row-message.ts';

/** The columns of opening stock typed at a desk; product, place and dates go on from row to row. */
export const OPENING_COLUMNS: readonly Column[] = [
  { key: 'product', label: 'Product', kind: 'text', width: '112px', inherit: true, must: true },
  { key: 'place', label: 'Place', kind: 'text', width: '96px', inherit: true, must: true },
  { key: 'lot', label: 'Lot', kind: 'text', width: '124px' },
  { key: 'serial', label: 'Serial', kind: 'text', width: '124px' },
  { key: 'quantity', label: 'Quantity', kind: 'quantity', width: '92px' },
  {
    key: 'expires',
    label: 'Expires',
    kind: 'date',
    monthEnds: true,
    width: '134px',
    also: ['expiry']
  },
  { key: 'unitCost', label: 'Cost of one', kind: 'quantity', width: '92px', also: ['cost'] }
];

/** Columns that come when they are asked for, or pasted. */
export const MORE_OPENING_COLUMNS: readonly Column[] = [
  { key: 'unit', label: 'Unit', kind: 'text', width: '80px', inherit: true },
  { key: 'made', label: 'Made', kind: 'date', width: '134px' },
  { key: 'retest', label: 'Retest', kind: 'date', monthEnds: true, width: '134px' },
  {
    key: 'supplierNumber',
    label: 'Their number',
    kind: 'text',
    width: '124px',
    also: ['supplier number']
  }
];

const TOLD = ['product', 'place', 'lot', 'serial', 'quantity'] as const;
const OF_MARK = ['lot', 'serial', 'made', 'expires', 'retest', 'supplierNumber'] as const;

/** A row nobody typed anything of its own into: what it took over from above does not count. */
const isBlank = (row: Row, above: Row | undefined): boolean =>
  !TOLD.some((key) => row[key]?.trim() && row[key] !== above?.[key]);

/** The places of rows that say something, in their order: line n of the booking is row `rows[n]`. */
export const filledRows = (rows: readonly Row[]): number[] =>
  rows.flatMap((row, at) => (isBlank(row, rows[at - 1]) ? [] : [at]));

/** The rows as lines of an opening, one each. */
export const openingLines = (rows: readonly Row[]): OpeningLine[] =>
  filledRows(rows).map((at) => lineOf(rows[at]!));

function lineOf(row: Row): OpeningLine {
  const cell = (key: string) => row[key]?.trim() ?? '';
  const mark = given(row, OF_MARK);
  return {
    product: cell('product'),
    place: cell('place'),
    quantity: cell('quantity') || (cell('serial') ? '1' : ''),
    ...given(row, ['unit', 'unitCost']),
    ...(Object.keys(mark).length > 0 ? { marks: [mark] } : {})
  };
}

const given = (row: Row, keys: readonly string[]): Record<string, string> =>
  Object.fromEntries(keys.flatMap((key) => (row[key]?.trim() ? [[key, row[key].trim()]] : [])));

/** What is said beside each row, by its place on the sheet. */
export function openingVerdicts(
  rows: readonly Row[],
  faults: readonly Fault[],
  notes: readonly Note[],
  judged: boolean
): Map<number, RowVerdict> {
  const filled = filledRows(rows);
  const verdicts = new Map<number, RowVerdict>();
  if (judged && faults.length === 0)
    for (const at of filled) verdicts.set(at, { tone: 'good', text: 'can be booked' });
  const tell = (tone: RowVerdict['tone'], { path, message }: Note): void => {
    const at = rowOfPath(filled, path);
    if (at !== null) verdicts.set(at, { tone, text: rowMessage(message) });
  };
  for (const note of notes) tell('note', note);
  for (const fault of faults) tell(fault.answer ? 'reason' : 'stop', fault);
  return verdicts;
}

/** The row of the sheet a path of the booking means; null where it means none. */
export const rowOfPath = (filled: readonly number[], path: string): number | null =>
  filled[lineOfPath(path) ?? -1] ?? null;
