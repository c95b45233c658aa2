import { daysLater } from '../../../core/calendar/day.ts';
import { RECORD_KINDS, RECORDS, type RecordKind } from '../../../core/exchange/records.ts';
import { today } from '../../kernel/clock.ts';
import type { Actor } from '../../kernel/actor.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { notFound } from '../../kernel/problem.ts';
import { requireRight } from '../../kernel/rights.ts';
import { fitsOneFile } from '../../kernel/tables/fits-one-file.ts';
import { writeTable, type Written } from '../../kernel/tables/write-table.ts';
import type { z } from 'zod';
import type { RecordsAsked, RecordsQuery, RecordsRead } from './asked.ts';
import { readChanges } from './changes.ts';
import { readGains } from './gains.ts';
import { readOverruled } from './overruled.ts';
import { readShipped } from './shipped.ts';
import { readTaken } from './taken.ts';
import { readWhoCould } from './who-could.ts';

const READERS: Record<
  RecordKind,
  (sql: Sql, asked: RecordsAsked, most: number) => Promise<RecordsRead>
> = {
  shipped: readShipped,
  changes: readChanges,
  gains: readGains,
  overruled: readOverruled,
  rights: readWhoCould,
  exports: readTaken
};

/**
 * Which list an address names, for somebody who may see it.
 * @throws Problem 404, 403
 */
export function recordKind(name: string, actor: Actor): RecordKind {
  const kind = RECORD_KINDS.find((one) => one === name) ?? notFound('record', name);
  requireRight(actor, RECORDS[kind].right);
  return kind;
}

const DAYS = 30;

/** What is asked, with the days that were left out. */
export function recordsAsked(given: z.infer<typeof RecordsQuery>): RecordsAsked {
  const to = given.to ?? today();
  return {
    ...{ from: given.from ?? daysLater(to, -DAYS), to, day: given.day ?? today() },
    ...{ q: given.q || undefined, right: given.right }
  };
}

/** One of the auditor's lists: the first rows of it, and how many there are. */
export const readRecords = (
  sql: Sql,
  kind: RecordKind,
  asked: RecordsAsked,
  most: number
): Promise<RecordsRead> => READERS[kind](sql, asked, most);

/** Most rows of one file. */
const MOST_IN_FILE = 50_000;

/** The list as a file. @throws Problem 422 where it is more than one takes */
export async function recordsFile(
  sql: Sql,
  kind: RecordKind,
  asked: RecordsAsked,
  format: 'csv' | 'xlsx'
): Promise<Written> {
  const { rows, total } = await readRecords(sql, kind, asked, MOST_IN_FILE);
  fitsOneFile(total, MOST_IN_FILE, 'Ask for fewer days.');
  const { columns, asks } = RECORDS[kind];
  const when = asks === 'day' ? asked.day : `${asked.from}-${asked.to}`;
  const withEvent = rows.some((row) => row.event !== undefined);
  const all = [...columns, ...(withEvent ? [{ key: 'event', says: 'event' }] : [])];
  return writeTable(`${kind}-${when}`, format, all, rows);
}
