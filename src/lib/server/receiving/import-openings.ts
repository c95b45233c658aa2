import { createHash } from 'node:crypto';
import { readDay } from '../../core/calendar/read-day.ts';
import { lineOfPath } from '../../core/faults/line-of-path.ts';
import { groupBy } from '../../core/group-by.ts';
import type { TableColumn } from '../../core/tables/headings.ts';
import type { Actor } from '../kernel/actor.ts';
import { today } from '../kernel/clock.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import {
  badCells,
  reportOf,
  type ImportMode,
  type ImportReport,
  type RowReport
} from '../kernel/imports/report.ts';
import { TakenBack } from '../kernel/imports/run-import.ts';
import { Problem } from '../kernel/problem.ts';
import { readTable, type TableRow } from '../kernel/tables/read-table.ts';
import { book } from '../ledger/book.ts';
import { open } from './kinds.ts';
import { Opening } from './schemas.ts';

/** The columns every table of opening stock may have; a fact a plan asks for is one more. */
const COLUMNS: readonly TableColumn[] = [
  { key: 'product', says: 'product', required: true, also: ['code', 'product code'] },
  { key: 'place', says: 'place', required: true },
  { key: 'lot', says: 'lot', also: ['lot number', 'batch'] },
  { key: 'serial', says: 'serial', also: ['serial number'] },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit' },
  { key: 'made', says: 'made', also: ['made on'] },
  { key: 'expires', says: 'expires', also: ['expiry', 'expiry date'] },
  { key: 'retest', says: 'retest', also: ['retest date'] },
  { key: 'supplierNumber', says: 'supplier number', also: ['their number'] },
  { key: 'unitCost', says: 'unit cost', also: ['cost'] },
  { key: 'since', says: 'since', also: ['since when', 'here since'] }
];
const DATES = ['made', 'expires', 'retest', 'since'] as const;

/** The columns of a table of opening stock, with the facts that plans ask for now. */
export async function openingColumns(db: Db): Promise<TableColumn[]> {
  const facts = await db<{ name: string }[]>`
    SELECT DISTINCT ON (upper(f->>'name')) f->>'name' AS name
    FROM marking_plan p
      CROSS JOIN LATERAL (
        SELECT v.body
        FROM marking_plan_version v
        WHERE v.plan_id = p.id
        ORDER BY v.version DESC
        LIMIT 1
      ) v
      CROSS JOIN LATERAL jsonb_array_elements(v.body->'facts') f
    ORDER BY upper(f->>'name')
  `;
  const known = new Set(COLUMNS.flatMap(({ says, also = [] }) => [says, ...also]));
  const asked = facts.filter(({ name }) => !known.has(name.toLowerCase()));
  return [...COLUMNS, ...asked.map(({ name }) => ({ key: `fact ${name}`, says: name }))];
}

/** A row of the file as a line of an opening. */
interface OpeningRow {
  row: number;
  what: string;
  since: string;
  line: Record<string, unknown>;
  faults: string[];
}

/**
 * Reads opening stock from a file and reports row by row; writes only where the mode says so, an
 * event for each day that things have lain here since. The same file is booked once, however often
 * it is sent.
 * @param document number it is booked under
 * @throws Problem 413, 422 for the file as a whole, 403 without the right
 */
export async function importOpenings(
  sql: Sql,
  actor: Actor,
  file: Uint8Array,
  mode: ImportMode,
  document: string
): Promise<ImportReport> {
  const { rows, passedOver } = await readTable(file, await openingColumns(sql));
  const read = rows.map((row) => asOpeningRow(row));
  const print = createHash('sha256').update(file).digest('base64url').slice(0, 32);
  const days = [...groupBy(read, (row) => row.since)].sort(([a], [b]) => (a < b ? -1 : 1));
  const reports: RowReport[] = [];
  let written = false;
  try {
    await sql.begin(async (tx) => {
      for (const [since, ofDay] of days)
        reports.push(...(await keepDay(tx, actor, { document, since, print }, ofDay)));
      reports.sort((a, b) => a.row - b.row);
      const whole = reports.every((row) => row.verdict !== 'fault');
      written = mode === 'write-good' || (mode === 'write' && whole);
      if (!written) throw new TakenBack();
    });
  } catch (error) {
    if (!(error instanceof TakenBack)) throw error;
  }
  return reportOf(reports, passedOver, written);
}

function asOpeningRow({ row, cells }: TableRow): OpeningRow {
  const faults: string[] = [];
  const dates = Object.fromEntries(
    DATES.map((key) => [key, dateOf(cells[key] ?? '', key, faults)])
  ) as Record<(typeof DATES)[number], string>;
  const { product = '', place = '', lot = '', serial = '', unit = '', unitCost = '' } = cells;
  if (product === '') faults.push('The product is missing.');
  if (place === '') faults.push('The place is missing: say where it lies.');
  if (dates.since > today()) faults.push(`It cannot lie here since ${dates.since}, still to come.`);
  const facts = Object.entries(cells).filter(
    ([key, text]) => key.startsWith('fact ') && text !== ''
  );
  const mark = given({
    lot,
    serial,
    made: dates.made,
    expires: dates.expires,
    retest: dates.retest,
    supplierNumber: cells.supplierNumber
  });
  const values = Object.fromEntries(facts.map(([key, text]) => [key.slice(5), text]));
  if (facts.length > 0) mark.facts = values;
  const quantity = cells.quantity || (serial === '' ? '' : '1');
  return {
    row,
    what: [product, serial || lot].filter(Boolean).join(' ') || 'without product',
    since: dates.since >= today() ? '' : dates.since,
    faults,
    line: {
      ...given({ product, place, unit, unitCost }),
      quantity,
      ...(Object.keys(mark).length > 0 ? { marks: [mark] } : {})
    }
  };
}

const given = (cells: Record<string, string | undefined>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(cells).filter(([, text]) => text));

function dateOf(text: string, what: string, faults: string[]): string {
  if (text === '') return '';
  const day = readDay(text);
  if (day === null)
    faults.push(
      `“${text}” under ${what} is no date. Write it as year-month-day, such as 2027-03-12.`
    );
  return day ?? '';
}

/**
 * Books the rows of one day as one opening; rows that do not hold are named and left out, until
 * what is left holds.
 */
async function keepDay(
  tx: Tx,
  actor: Actor,
  { document, since, print }: { document: string; since: string; print: string },
  rows: readonly OpeningRow[]
): Promise<RowReport[]> {
  const told = new Map<number, string[]>();
  for (const { row, faults } of rows) if (faults.length > 0) told.set(row, faults);
  let verdict: 'new' | 'same' = 'new';
  for (;;) {
    const good = rows.filter(({ row }) => !told.has(row));
    if (good.length === 0) break;
    const faults = await tryRows(tx, actor, { document, since, print }, good);
    if (faults === 'booked before') verdict = 'same';
    if (typeof faults === 'string') break;
    for (const [row, messages] of faults) told.set(row, messages);
  }
  return rows.map(({ row, what }) => ({
    row,
    what,
    verdict: told.has(row) ? 'fault' : verdict,
    messages: told.get(row) ?? []
  }));
}

/** @returns the faults by row of the file, or that the rows are booked */
async function tryRows(
  tx: Tx,
  actor: Actor,
  { document, since, print }: { document: string; since: string; print: string },
  rows: readonly OpeningRow[]
): Promise<Map<number, string[]> | 'booked' | 'booked before'> {
  const wanted = Opening.safeParse({
    document,
    ...(since === '' ? {} : { at: `${since}T12:00:00Z` }),
    lines: rows.map(({ line }) => line)
  });
  if (!wanted.success) throw badCells(wanted.error.issues);
  try {
    const key = `opening ${print} ${since}`;
    const { fresh } = await within(tx, (part) => book(part, open, actor, key, wanted.data));
    return fresh ? 'booked' : 'booked before';
  } catch (error) {
    if (!(error instanceof Problem) || error.status !== 422) throw error;
    return faultsByRow(error, rows);
  }
}

/** Faults of lines, by the row of the file each line is. @throws what names no line */
function faultsByRow(problem: Problem, rows: readonly OpeningRow[]): Map<number, string[]> {
  const told = new Map<number, string[]>();
  for (const { path, message } of problem.errors) {
    const index = lineOfPath(path);
    if (index === null) throw problem;
    const { row } = rows[index]!;
    told.set(row, [...(told.get(row) ?? []), message]);
  }
  return told;
}
