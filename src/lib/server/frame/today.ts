import { isOnHand } from '../kernel/db/what-counts.ts';
import { daysLater } from '../../core/calendar/day.ts';
import type { Db } from '../kernel/db/client.ts';
import { readBuildGaps, type BuildGap } from '../making/build-gaps.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readOpenOrders, type OpenOrders } from '../orders/read-orders.ts';
import { readTrend } from '../trace/loose-ends.ts';
import { readSerialsLater } from '../shipping/sales.ts';
import { readHeld, type HeldMark } from '../stock/held.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { readUnnumbered, type Unnumbered } from '../stock/unnumbered.ts';

interface ExpiringMark {
  id: number;
  kind: 'lot' | 'serial';
  number: string;
  product: string;
  onHand: string;
  unit: string;
  expires: string;
}
/** Most orders of a kind Today shows. */
const LISTED = 6;

export interface TodayScreen {
  receive: OpenOrders;
  build: OpenOrders;
  ship: OpenOrders;
  held: Listed<HeldMark>;
  expiring: Listed<ExpiringMark>;
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
  unnumbered: Listed<Unnumbered>;
  atDock: number;
  /** Sales orders whose serials are named later. */
  serialsLater: Awaited<ReturnType<typeof readSerialsLater>>;
  /** How many loose ends there were day by day. */
  trend: { day: string; count: number }[];
  /** Builds with parts that nobody named. */
  gaps: Listed<BuildGap>;
}

/**
 * What waits today: orders, what is held, what expires within thirty days and is on hand, what was
 * booked lately, one's own drafts.
 */
export async function readToday(db: Db, today: string, personId: number): Promise<TodayScreen> {
  const [receive, build, ship] = await Promise.all([
    readOpenOrders(db, 'purchase', today, LISTED),
    readOpenOrders(db, 'work', today, LISTED),
    readOpenOrders(db, 'sales', today, LISTED)
  ]);
  const expiring = await readExpiring(db, today);
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
    expiring,
    lately: lately.map((row) => ({ ...row, at: row.at.toISOString() })),
    drafts: drafts.map((row) => ({ sheet: row.sheet, keptAt: row.kept_at.toISOString() }))
  };
}

/** What is on hand and expires within thirty days, or has, soonest first. */
async function readExpiring(db: Db, today: string): Promise<Listed<ExpiringMark>> {
  const rows = await db<(ExpiringMark & { total: number })[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.unit, m.expires_on AS expires,
      x.quantity AS "onHand", x.total
    FROM (
      SELECT s.mark_id, sum(s.quantity) AS quantity, count(*) OVER ()::int AS total
      FROM stock s
      WHERE s.quantity > 0
        AND ${isOnHand(db, db`s.place_id`)}
        AND s.expires_on <= ${daysLater(today, 30)}
      GROUP BY s.mark_id, s.expires_on
      ORDER BY s.expires_on, s.mark_id
      LIMIT 20
    ) x
      JOIN mark m ON m.id = x.mark_id
      JOIN product p ON p.id = m.product_id
    ORDER BY m.expires_on, m.number
  `;
  return mapListed(listed(rows), (row) => ({ ...row, onHand: trimZeros(row.onHand) }));
}
