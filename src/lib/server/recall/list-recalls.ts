import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { cameBack } from './came-back.ts';

export interface RecallSummary {
  number: string;
  title: string;
  mock: boolean;
  state: 'open' | 'decided' | 'closed';
  openedAt: string;
  decidedAt: string | null;
  closedAt: string | null;
  who: string;
  suspects: number;
  customers: number;
  /** What is accounted for of what customers had, 0…1. */
  part: number;
  /** Customers who were written to and have not answered for all they had. */
  waiting: number;
}

interface Row extends Omit<RecallSummary, 'state' | 'openedAt' | 'decidedAt' | 'closedAt'> {
  opened_at: Date;
  decided_at: Date | null;
  closed_at: Date | null;
}

const LISTED = 200;

/** The latest cases, open ones first, with how many there are. */
export async function listRecalls(db: Db): Promise<Listed<RecallSummary>> {
  const rows = await countedCases(db);
  return mapListed(listed(rows), ({ opened_at, decided_at, closed_at, ...row }) => ({
    ...row,
    state: stateOfCase(decided_at, closed_at),
    openedAt: opened_at.toISOString(),
    decidedAt: decided_at?.toISOString() ?? null,
    closedAt: closed_at?.toISOString() ?? null
  }));
}

function stateOfCase(decided: Date | null, closed: Date | null): RecallSummary['state'] {
  if (closed) return 'closed';
  return decided ? 'decided' : 'open';
}

const countedCases = (db: Db) => db<(Row & { total: number })[]>`
  WITH cases AS (
    SELECT *, count(*) OVER ()::int AS total
    FROM recall_case
    ORDER BY closed_at IS NOT NULL, id DESC
    LIMIT ${LISTED}
  ),
    goods AS (
      SELECT s.case_id, s.partner_id, s.mark_id, sum(s.quantity) AS had,
        sum(${cameBack(db)}) AS back
      FROM recall_scope_customer s
        JOIN cases c ON c.id = s.case_id
      GROUP BY s.case_id, s.partner_id, s.mark_id
    ),
    told AS (
      SELECT a.case_id, a.partner_id, a.mark_id,
        coalesce(sum(a.quantity) FILTER (WHERE a.outcome = 'returned'), 0) AS returned,
        coalesce(sum(a.quantity) FILTER (WHERE a.outcome <> 'returned'), 0) AS otherwise
      FROM recall_answer a
        JOIN cases c ON c.id = a.case_id
      GROUP BY a.case_id, a.partner_id, a.mark_id
    ),
    standing AS (
      SELECT g.case_id, g.partner_id,
        least(1, (
          CASE WHEN c.mock THEN greatest(g.back, coalesce(t.returned, 0)) ELSE g.back END
            + coalesce(t.otherwise, 0)
        ) / g.had) AS part,
        greatest(g.back, coalesce(t.returned, 0)) + coalesce(t.otherwise, 0) < g.had AS open
      FROM goods g
        JOIN cases c ON c.id = g.case_id
        LEFT JOIN told t USING (case_id, partner_id, mark_id)
    )
  SELECT c.number, c.title, c.mock, c.opened_at, c.decided_at, c.closed_at, p.name AS who,
    c.total,
    (SELECT count(*)::int FROM recall_suspect s WHERE s.case_id = c.id) AS suspects,
    count(DISTINCT d.partner_id)::int AS customers,
    coalesce(avg(d.part), 1)::float8 AS part,
    count(DISTINCT d.partner_id) FILTER (
      WHERE d.open
        AND EXISTS (
          SELECT
          FROM recall_notice n
          WHERE n.case_id = c.id AND n.partner_id = d.partner_id
        )
    )::int AS waiting
  FROM cases c
    JOIN person p ON p.id = c.opened_by
    LEFT JOIN standing d ON d.case_id = c.id
  GROUP BY c.id, c.number, c.title, c.mock, c.opened_at, c.decided_at, c.closed_at, p.name,
    c.total
  ORDER BY c.closed_at IS NOT NULL, c.id DESC
`;
