import { daysLater } from '../../core/calendar/day.ts';
import type { Db } from '../kernel/db/client.ts';
import { readBuildGaps, type BuildGap } from '../making/build-gaps.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { listOrders, type OrderSummary } from '../orders/read-orders.ts';
import { readTrend } from '../trace/loose-ends.ts';
import { readSerialsLater } from '../shipping/sales.ts';
import { readUnnumbered, type Unnumbered } from '../stock/unnumbered.ts';

export interface TodayScreen {
  receive: OrderSummary[];
  build: OrderSummary[];
  ship: OrderSummary[];
  held: {
    id: number;
    kind: 'lot' | 'serial';
    number: string;
    product: string;
    onHand: string;
    unit: string;
    since: string;
    reason: string | null;
  }[];
  expiring: {
    id: number;
    kind: 'lot' | 'serial';
    number: string;
    product: string;
    onHand: string;
    unit: string;
    expires: string;
  }[];
  lately: {
    id: number;
    kind: string;
    document: string;
    partner: string | null;
    at: string;
    who: string;
    marks: number;
  }[];
  drafts: { sheet: string; keptAt: string }[];
  /** Stock whose number is still owed, and goods that wait at a dock. */
  unnumbered: Unnumbered[];
  atDock: number;
  /** Sales orders whose serials are named later. */
  serialsLater: Awaited<ReturnType<typeof readSerialsLater>>;
  /** How many loose ends there were day by day. */
  trend: { day: string; count: number }[];
  /** Builds with parts that nobody named. */
  gaps: BuildGap[];
}

/** Lots and serials that are held, longest first, with why. */
export async function readHeld(db: Db): Promise<TodayScreen['held']> {
  const rows = await db<TodayScreen['held']>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.unit, c.since, c.reason,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = ANY(
            ARRAY(
              SELECT x.id
              FROM mark x
              WHERE x.id = m.id
              UNION ALL
              SELECT x.id
              FROM mark x
              WHERE x.lot_id = m.id
            )
          )
        ),
          0
      ) AS "onHand"
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN LATERAL (
        SELECT e.happened_at::date AS since, e.reason
        FROM mark_change c
          JOIN event e ON e.id = c.event_id
        WHERE c.mark_id = m.id AND c.field = 'state'
        ORDER BY c.id DESC
        LIMIT 1
      ) c ON true
    WHERE m.state = 'held'
    ORDER BY c.since, m.number
    LIMIT 20
  `;
  return trim(rows);
}

const trim = <T extends { onHand: string }>(rows: readonly T[]): T[] =>
  rows.map((row) => ({ ...row, onHand: trimZeros(row.onHand) }));

/**
 * What waits today: orders, what is held, what expires within thirty days and is on hand, what was
 * booked lately, one's own drafts.
 */
export async function readToday(db: Db, today: string, personId: number): Promise<TodayScreen> {
  const [receive, build, ship] = await Promise.all([
    listOrders(db, 'purchase', 'open', 40),
    listOrders(db, 'work', 'open', 40),
    listOrders(db, 'sales', 'open', 40)
  ]);
  const expiring = await db<TodayScreen['expiring']>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.unit, m.expires_on AS expires,
      sum(s.quantity) AS "onHand"
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE s.quantity > 0 AND m.expires_on <= ${daysLater(today, 30)}
    GROUP BY m.id, p.code, p.unit
    ORDER BY m.expires_on, m.number
    LIMIT 20
  `;
  const lately = await db<(Omit<TodayScreen['lately'][number], 'at'> & { at: Date })[]>`
    SELECT e.id, e.kind, e.document, t.name AS partner, e.happened_at AS at, w.name AS who,
      (
        SELECT count(DISTINCT v.mark_id) FROM movement v WHERE v.event_id = e.id
      ) + (SELECT count(*) FROM packing k WHERE k.event_id = e.id) + (
        SELECT count(*) FROM mark_change c WHERE c.event_id = e.id
      ) AS marks
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.kind <> 'station'
    ORDER BY e.happened_at DESC, e.id DESC
    LIMIT 8
  `;
  const drafts = await db<
    { sheet: string; kept_at: Date }[]
  >`SELECT sheet, kept_at FROM draft WHERE person_id = ${personId} ORDER BY kept_at DESC LIMIT 5`;
  const [dock] = await db<{ count: number }[]>`
    SELECT count(*)::int AS count
    FROM stock s
      JOIN place c ON c.id = s.place_id
    WHERE c.kind = 'dock' AND s.quantity > 0
  `;
  return {
    receive,
    build,
    ship,
    unnumbered: await readUnnumbered(db),
    gaps: await readBuildGaps(db),
    serialsLater: await readSerialsLater(db),
    trend: await readTrend(db, 30),
    atDock: dock!.count,
    held: await readHeld(db),
    expiring: trim(expiring),
    lately: lately.map((row) => ({ ...row, at: row.at.toISOString() })),
    drafts: drafts.map((row) => ({ sheet: row.sheet, keptAt: row.kept_at.toISOString() }))
  };
}
