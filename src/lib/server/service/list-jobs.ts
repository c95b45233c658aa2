import type { JobSummary } from '../../core/service/job-summary.ts';
import type { Db } from '../kernel/db/client.ts';
import { holding } from '../kernel/db/like.ts';
import { listed, type Listed } from '../kernel/db/listed.ts';

const MOST = 500;

/** Open jobs, oldest promise first; those promised for no day behind them. */
export const listOpenJobs = (db: Db): Promise<Listed<JobSummary>> =>
  list(db, db`j.ended_at IS NULL`, db`j.promised_on NULLS LAST, j.id`);

/**
 * Jobs that are over, or any that hold a text, the latest first.
 * @param q part of a number, a serial, a product or a customer; where it is empty those that are over
 */
export const listEndedJobs = (db: Db, q: string): Promise<Listed<JobSummary>> =>
  list(
    db,
    q === ''
      ? db`j.ended_at IS NOT NULL`
      : db`
        (
          j.number ILIKE ${holding(q)}
            OR j.serial ILIKE ${holding(q)}
            OR p.code ILIKE ${holding(q)}
            OR t.name ILIKE ${holding(q)}
        )
      `,
    db`j.id DESC`
  );

/** Jobs of a unit, or those another went out for it on, the latest first. */
export const listJobsOf = async (db: Db, mark: number): Promise<JobSummary[]> =>
  (await list(db, db`(j.mark_id = ${mark} OR j.exchange_mark = ${mark})`, db`j.id DESC`)).rows;

async function list(
  db: Db,
  which: ReturnType<Db>,
  order: ReturnType<Db>
): Promise<Listed<JobSummary>> {
  const rows = await db<(JobSummary & { total: number })[]>`
    SELECT j.number, j.state, p.code AS product, p.name AS "productName", j.serial,
      j.mark_id AS mark, t.name AS "customerName", j.fault, j.promised_on AS promised,
      to_json(j.opened_at) #>> '{}' AS "openedAt", j.under_warranty AS "underWarranty",
      count(*) OVER ()::int AS total
    FROM service_job j
      JOIN product p ON p.id = j.product_id
      JOIN partner t ON t.id = j.customer_id
    WHERE ${which}
    ORDER BY ${order}
    LIMIT ${MOST}
  `;
  return listed(rows);
}

/** Where the latest unit was taken in; null before the first. */
export async function lastPlace(db: Db): Promise<string | null> {
  const [row] = await db<{ code: string }[]>`
    SELECT c.code
    FROM service_job j
      JOIN place c ON c.id = j.place_id
    ORDER BY j.id DESC
    LIMIT 1
  `;
  return row?.code ?? null;
}
