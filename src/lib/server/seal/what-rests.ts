import { certificateName } from '../../core/quality/certificate-name.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Direction } from '../../core/trace/graph.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { notFound } from '../kernel/problem.ts';
import { rowId } from '../kernel/row-id.ts';
import { liveScope } from '../recall/live-scope.ts';
import { readCutFrom } from '../trace/trace-cut.ts';
import { readSet } from '../trace/trace-roots.ts';
import { reachedMarks } from '../trace/trace.ts';

/** What a proof is asked for, and the events it rests on. */
export interface Rests {
  /** In words, and as a file is named. */
  of: string;
  file: string;
  events: number[];
}

/** All that befell these lots and serials, until an instant where one is given. */
async function eventsOf(db: Db, marks: readonly number[], until: Date | null): Promise<number[]> {
  const rows = await db<{ id: number }[]>`
    SELECT e.id
    FROM event e
    WHERE e.id IN (
      SELECT event_id FROM movement WHERE mark_id = ANY(${marks as number[]})
      UNION
      SELECT event_id FROM mark_change WHERE mark_id = ANY(${marks as number[]})
      UNION
      SELECT birth_event FROM mark WHERE id = ANY(${marks as number[]})
    )
      AND (${until}::timestamptz IS NULL OR e.happened_at < ${until})
    ORDER BY e.id
  `;
  return rows.map(({ id }) => id);
}

/**
 * The events a trace rests on: all that befell what it reaches, cut as its screen is.
 * @param at the id of a mark, or of a set after an s, as in the trace's address
 * @throws Problem 404
 */
export async function restsTrace(sql: Sql, url: URL, at: string): Promise<Rests> {
  const set = at.startsWith('s') ? rowId(at.slice(1)) : null;
  const mark = rowId(at);
  const asked = set === null ? null : await readSet(sql, set);
  const roots = asked?.marks ?? (mark === null ? [] : [mark]);
  const title = asked?.title ?? (await nameOf(sql, mark));
  if (title === null || roots.length === 0) return notFound('mark', at);
  const direction: Direction =
    url.searchParams.get('direction') === 'upstream' ? 'upstream' : 'downstream';
  const cut = await readCutFrom(sql, url, roots);
  const marks = await reachedMarks(sql, roots, direction, cut);
  const until = cut.until ? `, until ${url.searchParams.get('until')}` : '';
  return {
    of: `trace ${direction} of ${title}${until}`,
    file: `proof-of-trace-${at}-${direction}`,
    events: await eventsOf(sql, marks, cut.until ?? null)
  };
}

async function nameOf(db: Db, mark: number | null): Promise<string | null> {
  const [row] = await db<{ name: string }[]>`
    SELECT coalesce(m.number || ' of ', '') || p.code AS name
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id = ${mark}
  `;
  return row?.name ?? null;
}

/** The events a recall rests on: all that befell what is in its scope. @throws Problem 404 */
export async function restsCase(sql: Sql, number: string): Promise<Rests> {
  const [row] = await sql<{ number: string; title: string; beyond: boolean; marks: string[] }[]>`
    SELECT c.number, c.title, c.beyond_time AS beyond,
      ARRAY(SELECT mark_id FROM recall_suspect s WHERE s.case_id = c.id) AS marks
    FROM recall_case c
    WHERE upper(c.number) = ${numberKey(number)}
  `;
  if (!row) return notFound('recall', number);
  const { marks } = await liveScope(sql, row.marks.map(Number), row.beyond);
  return {
    of: `recall ${row.number}, ${row.title}`,
    file: `proof-of-${row.number}`,
    events: await eventsOf(sql, marks, null)
  };
}

/** The events a certificate rests on: all that befell what it names. @throws Problem 404 */
export async function restsCertificate(sql: Sql, number: number): Promise<Rests> {
  const marks = await sql<{ id: number }[]>`
    SELECT mark_id AS id FROM certificate_mark WHERE number = ${number}
  `;
  if (marks.length === 0) return notFound('certificate', String(number));
  const name = certificateName(number);
  return {
    of: `certificate ${name}`,
    file: `proof-of-${name}`,
    events: await eventsOf(
      sql,
      marks.map(({ id }) => id),
      null
    )
  };
}
