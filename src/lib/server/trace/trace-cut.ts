import { isDay } from '../../core/calendar/day.ts';
import { shown } from '../../core/numbers/number.ts';
import type { TraceCut } from '../../core/trace/trace-answer.ts';
import type { Db } from '../kernel/db/client.ts';
import { rowId } from '../kernel/row-id.ts';
import { Problem } from '../kernel/problem.ts';

/** Most products or kinds of event a trace leaves out. */
const MOST = 50;

/** Where a trace starts and is cut, with the text it was asked from. */
export interface AskedCut extends TraceCut {
  fromText?: string;
}

/**
 * Where a trace starts and is cut, as its address says: `from` an event or a document that moved
 * its roots, `until` a day (its end) or an instant, `without` products, `skip` kinds of event,
 * `clocks` obeyed or ignored.
 * @throws Problem 400 for what cannot be read: a trace that is not cut as asked would claim more;
 * 422 where nothing of the roots was moved by what it is to start from
 */
export async function readCutFrom(db: Db, url: URL, roots: readonly number[]): Promise<AskedCut> {
  const cut = readCut(url);
  const text = (url.searchParams.get('from') ?? '').trim();
  if (text === '') return cut;
  const from = await eventsThatMoved(db, text, roots);
  return { ...cut, from, fromText: text };
}

/** The events of a document, or the one of that id, by which roots were moved. */
async function eventsThatMoved(db: Db, text: string, roots: readonly number[]): Promise<number[]> {
  const id = rowId(text);
  const rows = await db<{ id: number }[]>`
    SELECT DISTINCT e.id
    FROM event e
      JOIN movement v ON v.event_id = e.id
    WHERE v.mark_id = ANY(${roots as number[]})
      AND (
        upper(e.document) = upper(${text})
          OR upper(e.reference) = upper(${text})
          OR e.id = ${id}
      )
    ORDER BY e.id
  `;
  if (rows.length > 0) return rows.map((row) => row.id);
  throw new Problem(422, 'The trace cannot start there', [
    {
      code: 'request.malformed',
      path: 'from',
      number: shown(text),
      message: `Nothing of what is traced was moved by ${shown(text)}. Give the number of a document or of an event that brought it in or took it out.`
    }
  ]);
}

/** The same without where it starts: what can be read from the address alone. */
export function readCut(url: URL): TraceCut {
  const until = readUntil(url.searchParams.get('until') ?? '');
  const products = readList(url, 'without');
  const kinds = readList(url, 'skip');
  const clocks = url.searchParams.get('clocks') ?? 'obey';
  if (clocks !== 'obey' && clocks !== 'ignore')
    refuse(
      'clocks',
      clocks,
      `Clocks are obeyed or ignored, not “${shown(clocks)}”. Give obey or ignore.`
    );
  return {
    ...(until ? { until } : {}),
    ...(products.length > 0 ? { withoutProducts: products } : {}),
    ...(kinds.length > 0 ? { withoutKinds: kinds } : {}),
    ...(clocks === 'ignore' ? { clocks } : {})
  };
}

function readUntil(text: string): Date | null {
  if (text === '') return null;
  const isDate = /^\d{4}-\d{2}-\d{2}/.test(text) && isDay(text.slice(0, 10));
  const until = new Date(text.length === 10 ? `${text}T23:59:59.999Z` : text);
  if (isDate && !Number.isNaN(until.getTime())) return until;
  refuse('until', text, `“${shown(text)}” is no day and no instant. Give year-month-day.`);
}

function readList(url: URL, name: 'without' | 'skip'): string[] {
  const text = url.searchParams.get(name) ?? '';
  const list = text.split(',').map((one) => one.trim());
  const given = list.filter((one) => one !== '');
  if (given.length > MOST)
    refuse(name, text, `${given.length} are to be left out and ${MOST} are the most.`);
  return given;
}

function refuse(path: string, number: string, message: string): never {
  throw new Problem(400, 'The trace cannot be cut like this', [
    { code: 'request.malformed', path, number: shown(number), message }
  ]);
}
