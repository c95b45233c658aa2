import { numberKey, shown } from '../../core/numbers/number.ts';
import { readPattern } from '../../core/numbers/scheme-pattern.ts';
import type { Tx } from '../kernel/db/client.ts';
import { badCells } from '../kernel/imports/report.ts';
import type { ImportedTable } from '../kernel/imports/import-table.ts';
import { Problem } from '../kernel/problem.ts';
import { countFrom } from './count-from.ts';
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
    const counted = next !== '' && (await countFrom(tx, code, wanted.data.reset, readCount(next)));
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

/** @throws Problem 422 where it is no count */
function readCount(text: string): number {
  if (!/^[1-9]\d{0,14}$/.test(text))
    throw wrong('next', text, 'is no count. Give the count of the next number, such as 418');
  return Number(text);
}

const wrong = (path: string, text: string, why: string): Problem =>
  new Problem(422, 'The scheme cannot be kept like this', [
    { code: 'number.malformed', path, number: shown(text), message: `“${shown(text)}” ${why}.` }
  ]);
