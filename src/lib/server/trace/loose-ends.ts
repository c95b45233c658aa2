import { sayDay } from '../../core/calendar/say-day.ts';
import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { keptAnswer, type Kept } from '../kernel/kept-answer.ts';
import { readBuildGaps } from '../making/build-gaps.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readSerialsLater } from '../shipping/sales.ts';
import { readUnnumbered } from '../stock/unnumbered.ts';
import { readBeyondParts } from './beyond-parts.ts';
import { readExpiredOnHand } from './expired-on-hand.ts';
import { readImpossibleDates } from './impossible-dates.ts';
import type { LooseRow } from './loose-row.ts';
import { readNeverUsed } from './never-used.ts';
import { readOpenBalance } from './open-balance.ts';
import { readOriginUnknown } from './origin-unknown.ts';
import { readTooEarly } from './too-early.ts';
import { readWithoutComponents } from './without-components.ts';

/** Kinds of break the standing audit looks for, with what they mean. */
export const LOOSE_ENDS = {
  'number missing': 'Stock whose number is still owed by its marking plan.',
  'part missing': 'Builds with parts of the bill that nobody named.',
  'no components': 'Made here, but nothing is known to have gone in.',
  'origin unknown': 'Shipped, and nobody knows where it came from.',
  'beyond its parts': 'More was made than its parts can carry.',
  'dates that cannot be': 'Made after it came, or past its date before it was made.',
  'before it came': 'By their dates used or shipped before they were here.',
  'balance open': 'What moved and what was tied together do not agree.',
  'serials to name': 'Orders that leave soon and whose serials are named later.',
  'expired on hand': 'Past its date and still here, free to be used.',
  'never used': 'Received more than half a year ago, and not touched since.'
} as const;
export type LooseEndKind = keyof typeof LOOSE_ENDS;

/** One break, and where it is mended. */
export interface LooseEnd {
  kind: LooseEndKind;
  /** What it is about. */ title: string;
  markKind: MarkKind | null;
  says: string;
  since: string | null;
  href: string;
  mend: string;
}
export interface Audit {
  ends: LooseEnd[];
  counts: Record<LooseEndKind, number>;
}

/**
 * Looks the whole ledger over for breaks in traceability. Each names where it is mended. At most
 * two hundred of each kind are listed; `counts` are of all there are.
 * @param day `YYYY-MM-DD`, today
 */
export async function readLooseEnds(db: Db, day: string): Promise<Audit> {
  const name = (row: { number: string | null; product: string }) =>
    row.number === null ? `${row.product}, unmarked` : `${row.number} of ${row.product}`;
  // One after the other: where there is much each takes a while, and others need connections too.
  const unnumbered = await readUnnumbered(db);
  const gaps = await readBuildGaps(db);
  const later = await readSerialsLater(db);
  const bare = await readWithoutComponents(db);
  const unknown = await readOriginUnknown(db);
  const early = await readTooEarly(db);
  const beyond = await readBeyondParts(db);
  const dates = await readImpossibleDates(db);
  const open = await readOpenBalance(db);
  const expired = await readExpiredOnHand(db, day);
  const unused = await readNeverUsed(db, day);
  const of = (
    kind: LooseEndKind,
    rows: readonly LooseRow[],
    says: (row: LooseRow) => string,
    href: (row: LooseRow) => string,
    mend: string
  ): LooseEnd[] =>
    rows.map((row) => ({
      kind,
      title: name(row),
      markKind: row.kind,
      says: says({ ...row, amount: trimZeros(row.amount) }),
      since: row.since,
      href: href(row),
      mend
    }));
  const ends: LooseEnd[] = [
    ...unnumbered.rows.map((row): LooseEnd => ({
      kind: 'number missing',
      title: `${row.quantity} ${row.unit === 'each' ? '' : `${row.unit} `}${row.product}`,
      markKind: null,
      says: `${row.placeName}${row.lot ? `, lot ${row.lot}` : ''}`,
      since: row.since,
      href: `/identify?product=${encodeURIComponent(row.product)}`,
      mend: 'Give numbers'
    })),
    ...gaps.rows.map((row): LooseEnd => ({
      kind: 'part missing',
      title: name(row),
      markKind: row.kind,
      says: `lacks ${row.component}: ${row.used} of ${row.wanted}, ${row.document}`,
      since: row.since,
      ...(row.kind === 'serial'
        ? { href: `/marks/${row.mark}/as-built`, mend: 'Put it in' }
        : { href: `/events/${row.event}`, mend: 'Book it anew' })
    })),
    ...of(
      'no components',
      bare,
      () => 'nothing is known to have gone in',
      (row) => `/marks/${row.id}/as-built`,
      'Put its parts in'
    ),
    ...of(
      'origin unknown',
      unknown,
      (row) => `${row.amount} ${row.unit} shipped`,
      (row) => `/trace/${row.id}?direction=upstream`,
      'See its trace'
    ),
    ...of(
      'before it came',
      early,
      (row) => row.says ?? '',
      (row) => `/events/${row.amount}`,
      'See the booking'
    ),
    ...of(
      'beyond its parts',
      beyond,
      (row) => row.says ?? '',
      (row) => `/events/${row.amount}`,
      'See the booking'
    ),
    ...of(
      'dates that cannot be',
      dates,
      (row) => row.says ?? '',
      (row) => `/marks/${row.id}`,
      'Amend its dates'
    ),
    ...of(
      'balance open',
      open,
      (row) => `${row.amount} ${row.unit} moved that no transformation says`,
      (row) => `/trace/${row.id}?direction=downstream`,
      'See its trace'
    ),
    ...later.map((row): LooseEnd => ({
      kind: 'serials to name',
      title: `${row.order}: ${row.missing} ${row.product}`,
      markKind: null,
      says: `${row.partner ?? ''}, due ${sayDay(row.due)}`,
      since: row.since,
      href: `/ship/${encodeURIComponent(row.order)}/choose`,
      mend: 'Name them'
    })),
    ...of(
      'expired on hand',
      expired,
      (row) => `${row.amount} ${row.unit} still here`,
      (row) => `/marks/${row.id}`,
      'Hold or scrap it'
    ),
    ...of(
      'never used',
      unused,
      (row) => `${row.amount} ${row.unit} since it came`,
      (row) => `/marks/${row.id}`,
      'Look at it'
    )
  ];
  const all = (rows: readonly LooseRow[]): number => rows[0]?.total ?? 0;
  const counts: Record<LooseEndKind, number> = {
    'number missing': unnumbered.total,
    'part missing': gaps.total,
    'no components': all(bare),
    'origin unknown': all(unknown),
    'beyond its parts': all(beyond),
    'dates that cannot be': all(dates),
    'before it came': all(early),
    'balance open': all(open),
    'serials to name': later.length,
    'expired on hand': all(expired),
    'never used': all(unused)
  };
  return { ends, counts };
}

/** Runs the audit and keeps its counts for the day, for the trend. */
export async function keepAudit(sql: Sql, day: string): Promise<Audit> {
  const audit = await readLooseEnds(sql, day);
  const kinds = Object.keys(audit.counts);
  await sql`
    INSERT INTO loose_end_count (day, kind, count)
    SELECT ${day}::date, *
    FROM unnest(${kinds}::text[], ${kinds.map((kind) => audit.counts[kind as LooseEndKind])}::int[])
    ON CONFLICT (day, kind) DO UPDATE SET count = excluded.count
  `;
  return audit;
}

/** The audit as it is now, or where it takes long as it was when it was last looked over. */
export const keptAudit = (sql: Sql, day: string): Promise<Kept<Audit>> =>
  keptAnswer(sql, 'loose ends', () => keepAudit(sql, day));

/** How many loose ends there were on each of the last days that were audited, oldest first. */
export async function readTrend(db: Db, days = 60): Promise<{ day: string; count: number }[]> {
  const rows = await db<{ day: string; count: number }[]>`
    SELECT day, sum(count)::int AS count
    FROM loose_end_count
    GROUP BY day
    ORDER BY day DESC
    LIMIT ${days}
  `;
  return [...rows].reverse();
}
