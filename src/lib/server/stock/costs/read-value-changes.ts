import { HOME_ZONE } from '../../../core/calendar/day.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { withinDays } from '../../kernel/db/days.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { carryCosts } from './carry-costs.ts';

/** How value changed other than by buying, making and selling. */
export interface ValueChange {
  event: number;
  /** The day it happened. */
  day: string;
  kind: string;
  document: string;
  /** One of them, and how many: marks of a product that changed alike are one line. */
  mark: number;
  marks: number;
  product: string;
  name: string;
  unit: string;
  /** Null where there are several, or none has a number. */
  number: string | null;
  /** What was gained, above zero, or lost; of a revaluation what lies here. */
  quantity: string;
  costBefore: string | null;
  costAfter: string | null;
  /** What it comes to; null where a cost is not known. */
  amount: string | null;
  /** Of a correction: what had left would have cost so much more. */
  gone: string | null;
  reason: string | null;
  by: string;
  approvedBy: string | null;
}

export interface ValueChanges {
  rows: ValueChange[];
  count: number;
  /** Over all of the period, by kind. */
  sums: { kind: string; amount: string; unknown: number }[];
}

/** Kinds by which goods are found and lost. */
const FOUND_OR_LOST = ['gain', 'loss', 'scrap', 'count'];

/** Most rows that are answered at once. */
export const MOST_CHANGES = 5_000;

interface Period {
  /** `YYYY-MM-DD`, both included. */
  from: string;
  to: string;
}

/**
 * Gains, losses, scrap, revaluations and what taking apart cost, between two days, both included;
 * what was taken back stands beside it with the other sign. The latest first.
 * @param each a line for each mark, also where many changed alike
 */
export async function readValueChanges(
  sql: Sql,
  period: Period,
  most: number,
  each = false
): Promise<ValueChanges> {
  await carryCosts(sql);
  const [rows, sums] = await Promise.all([
    readRows(sql, period, most, each),
    readSums(sql, period)
  ]);
  const plain = (text: string | null) => text && trimZeros(text);
  return {
    rows: rows.map(({ total: _, ...row }) => ({
      ...row,
      quantity: trimZeros(row.quantity),
      costBefore: plain(row.costBefore),
      costAfter: plain(row.costAfter),
      amount: plain(row.amount),
      gone: plain(row.gone)
    })),
    count: rows[0]?.total ?? 0,
    sums: sums.map((one) => ({ ...one, amount: trimZeros(one.amount) }))
  };
}

/** The changes of a period as `changes`: what was found or lost at its cost then, and entries. */
function changesOf(sql: Sql, period: Period) {
  const within = withinDays(sql, sql`e.happened_at`, period);
  return sql`
    WITH moved AS (
      SELECT e.id AS event, v.mark_id, sum(v.quantity) AS quantity,
        max(v.unit_cost) FILTER (WHERE v.quantity > 0) AS told
      FROM event e
        JOIN movement v ON v.event_id = e.id
        LEFT JOIN event u ON u.id = e.reverses_id
      WHERE ${within} AND coalesce(u.kind, e.kind) = ANY(${FOUND_OR_LOST})
      GROUP BY e.id, v.mark_id
      HAVING sum(v.quantity) <> 0
    ),
    changes AS (
      SELECT m.event, m.mark_id, m.quantity, NULL::numeric AS before,
        coalesce(m.told, c.unit_cost) AS after,
        m.quantity * coalesce(m.told, c.unit_cost) AS amount, NULL::numeric AS gone
      FROM moved m
        LEFT JOIN LATERAL (
          SELECT unit_cost
          FROM mark_cost
          -- As it was told then: what a correction changed stands in a line of its own.
          WHERE mark_id = m.mark_id AND event_id <= m.event AND told_by <= m.event
          ORDER BY event_id DESC, told_by DESC
          LIMIT 1
        ) c ON true
      UNION ALL
      SELECT n.event_id, n.mark_id, n.lying, n.cost_before, n.cost_after, n.here, n.gone
      FROM cost_entry n
        JOIN event e ON e.id = n.event_id
      -- What is inside of others by now is worth nothing of its own.
      WHERE ${within} AND (n.lying <> 0 OR n.here IS NULL OR n.here <> 0 OR n.gone <> 0)
    )
  `;
}

const readRows = (sql: Sql, period: Period, most: number, each: boolean) =>
  sql<(ValueChange & { total: number })[]>`
    ${changesOf(sql, period)},
    alike AS (
      SELECT h.event, m.product_id, min(h.mark_id) AS mark_id, count(*)::int AS marks,
        sum(h.quantity) AS quantity, h.before, h.after,
        CASE WHEN bool_and(h.amount IS NOT NULL) THEN sum(h.amount) END AS amount,
        CASE WHEN bool_and(h.gone IS NOT NULL) THEN sum(h.gone) END AS gone
      FROM changes h
        JOIN mark m ON m.id = h.mark_id
      GROUP BY h.event, m.product_id, h.before, h.after ${each ? sql`, h.mark_id` : sql``}
    )
    SELECT h.event, (e.happened_at AT TIME ZONE ${HOME_ZONE})::date AS day,
      CASE WHEN u.id IS NULL THEN e.kind ELSE u.kind || ' taken back' END AS kind,
      e.document, h.mark_id AS mark, h.marks, p.code AS product, p.name, p.unit,
      CASE WHEN h.marks = 1 THEN m.number END AS number, h.quantity,
      h.before AS "costBefore", h.after AS "costAfter", h.amount, h.gone, e.reason,
      n.name AS by,
      (
        SELECT string_agg(DISTINCT s.name, ', ')
        FROM booking_remark r
          JOIN approval a ON a.id = r.approval_id
          JOIN person s ON s.id = a.approved_by
        WHERE r.event_id = e.id
      ) AS "approvedBy",
      count(*) OVER ()::int AS total
    FROM alike h
      JOIN event e ON e.id = h.event
      JOIN person n ON n.id = e.booked_by
      LEFT JOIN event u ON u.id = e.reverses_id
      JOIN mark m ON m.id = h.mark_id
      JOIN product p ON p.id = m.product_id
    ORDER BY e.happened_at DESC, h.event DESC, p.code, m.number
    LIMIT ${most}
  `;

const readSums = (sql: Sql, period: Period) =>
  sql<ValueChanges['sums']>`
    ${changesOf(sql, period)}
    SELECT coalesce(u.kind, e.kind) AS kind, coalesce(sum(h.amount), 0) AS amount,
      count(*) FILTER (WHERE h.amount IS NULL)::int AS unknown
    FROM changes h
      JOIN event e ON e.id = h.event
      LEFT JOIN event u ON u.id = e.reverses_id
    GROUP BY coalesce(u.kind, e.kind)
    ORDER BY kind
  `;
