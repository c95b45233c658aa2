import type { AnswerRow, ScopeRow } from '../../core/recall/standing.ts';
import type { Db } from '../kernel/db/client.ts';
import { cameBack } from './came-back.ts';

/** The scope as it was decided, with what of it came back by bookings since. */
export const readFrozenScope = (db: Db, caseId: number): Promise<ScopeRow[]> => db<ScopeRow[]>`
  SELECT t.code AS partner, s.mark_id AS mark, s.event_id AS event, p.unit,
    trim_scale(s.quantity)::text AS quantity,
    trim_scale(${cameBack(db)})::text AS back
  FROM recall_scope_customer s
    JOIN partner t ON t.id = s.partner_id
    JOIN mark m ON m.id = s.mark_id
    JOIN product p ON p.id = m.product_id
  WHERE s.case_id = ${caseId}
  ORDER BY t.code, s.event_id, s.mark_id
`;

export interface ToldAnswer extends AnswerRow {
  id: number;
  name: string;
  number: string | null;
  product: string;
  unit: string;
  note: string;
  toldAt: string;
  who: string;
}

/** What customers answered, the earliest first. */
export async function readAnswers(db: Db, caseId: number): Promise<ToldAnswer[]> {
  const rows = await db<(Omit<ToldAnswer, 'toldAt'> & { told_at: Date })[]>`
    SELECT a.id, t.code AS partner, t.name, a.mark_id AS mark, m.number, q.code AS product,
      q.unit, a.outcome, trim_scale(a.quantity)::text AS quantity, a.note, a.told_at,
      p.name AS who
    FROM recall_answer a
      JOIN partner t ON t.id = a.partner_id
      JOIN mark m ON m.id = a.mark_id
      JOIN product q ON q.id = m.product_id
      JOIN person p ON p.id = a.told_by
    WHERE a.case_id = ${caseId}
    ORDER BY a.id
  `;
  return rows.map(({ told_at, ...row }) => ({ ...row, toldAt: told_at.toISOString() }));
}

export interface SentNotice {
  id: number;
  kind: 'notice' | 'reminder';
  partner: string;
  name: string;
  sentAt: string;
  who: string;
  /** It went out when it was due, without anybody. */
  byItself: boolean;
}

/** The letters of a case, the earliest first. */
export async function readNotices(db: Db, caseId: number): Promise<SentNotice[]> {
  const rows = await db<(Omit<SentNotice, 'sentAt'> & { sent_at: Date })[]>`
    SELECT n.id, n.kind, t.code AS partner, t.name, n.sent_at, p.name AS who,
      n.by_itself AS "byItself"
    FROM recall_notice n
      JOIN partner t ON t.id = n.partner_id
      JOIN person p ON p.id = n.sent_by
    WHERE n.case_id = ${caseId}
    ORDER BY n.id
  `;
  return rows.map(({ sent_at, ...row }) => ({ ...row, sentAt: sent_at.toISOString() }));
}
