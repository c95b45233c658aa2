import { numberKey, shown } from '../../core/numbers/number.ts';
import { readPattern } from '../../core/numbers/scheme-pattern.ts';
import { periodOf, type Period } from '../../core/numbers/scheme.ts';
import { today } from '../kernel/clock.ts';
import type { Tx } from '../kernel/db/client.ts';
import { badCells } from '../kernel/imports/report.ts';
import type { ImportedTable } from '../kernel/imports/import-table.ts';
import { Problem } from '../kernel/problem.ts';
import { putScheme } from './numbering.ts';
import { NumberingScheme } from './schemas.ts';

/** A table of numbering schemes, each with the count its next number has. */
export const schemeTable: ImportedTable = {
  columns: [
    { key: 'code', says: 'code', required: true, also: ['scheme'] },
    { key: 'name', says: 'name', required: true },
    { key: 'number', says: 'number', required: true, also: ['pattern'] },
    { key: 'reset', says: 'counts anew', also: ['begins again', 'reset'] },
    { key: 'next', says: 'next count', also: ['next number', 'next'] }
  ],
  key: 'code',
  rows: 'one',
  keep: async (tx, code, [row]) => {
    const { name, number = '', reset = '', next = '' } = row!.cells;
    const reading = readPattern(number);
    if (!reading.ok) throw wrong('number', number, `cannot be read: ${reading.why}`);
    const wanted = NumberingScheme.safeParse({
      name,
      segments: reading.segments,
      reset: reset.toLowerCase() || 'never'
    });
    if (!wanted.success) throw badCells(wanted.error.issues);
    const before = await readKept(tx, code);
    const { created } = await putScheme(tx, code, wanted.data);
    const counted = next === '' ? false : await countFrom(tx, code, wanted.data.reset, next);
    if (created) return 'new';
    return counted || before !== (await readKept(tx, code)) ? 'changed' : 'same';
  }
};

async function readKept(tx: Tx, code: string): Promise<string | undefined> {
  const [row] = await tx<{ kept: string }[]>`
    SELECT concat_ws(' ', name, segments, reset) AS kept
    FROM numbering_scheme
    WHERE upper(code) = ${numberKey(code)}
  `;
  return row?.kept;
}

/**
 * Lets a scheme go on where the old system stopped. A counter only goes up: a number is never
 * given twice.
 * @returns whether that moved it
 */
async function countFrom(tx: Tx, code: string, reset: Period, next: string): Promise<boolean> {
  if (!/^[1-9]\d{0,14}$/.test(next))
    throw wrong('next', next, 'is no count. Give the count of the next number, such as 418');
  const last = Number(next) - 1;
  const period = periodOf(reset, today());
  const [there] = await tx<{ id: number; last: number | null }[]>`
    SELECT s.id, c.last
    FROM numbering_scheme s
      LEFT JOIN numbering_counter c ON c.scheme_id = s.id AND c.period = ${period}
    WHERE upper(s.code) = ${numberKey(code)}
  `;
  const now = there!.last ?? 0;
  if (last === now) return false;
  if (last < now)
    throw wrong(
      'next',
      next,
      `was given already: the scheme has counted to ${now}. Name a later one`
    );
  await tx`
    INSERT INTO numbering_counter (scheme_id, period, last)
    VALUES (${there!.id}, ${period}, ${last})
    ON CONFLICT (scheme_id, period) DO UPDATE SET last = excluded.last
  `;
  return true;
}

const wrong = (path: string, text: string, why: string): Problem =>
  new Problem(422, 'The scheme cannot be kept like this', [
    { code: 'number.malformed', path, number: shown(text), message: `“${shown(text)}” ${why}.` }
  ]);
