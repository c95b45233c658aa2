import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';

export interface CaseRow {
  id: number;
  number: string;
  mock: boolean;
  decided: boolean;
  closed: boolean;
  /** Whether it takes in what time cleared. */ beyondTime: boolean;
}

/** A case by its number, locked for as long as the transaction lasts. @throws Problem 404 */
export async function lockCase(tx: Tx, number: string): Promise<CaseRow> {
  const [row] = await tx<CaseRow[]>`
    SELECT id, number, mock, decided_at IS NOT NULL AS decided, closed_at IS NOT NULL AS closed,
      beyond_time AS "beyondTime"
    FROM recall_case
    WHERE upper(number) = ${numberKey(number)}
    FOR UPDATE
  `;
  return row ?? notFound('recall', number);
}

/** @throws Problem with one error */
export const refuse = (
  status: number,
  title: string,
  code: string,
  message: string,
  path = ''
): never => {
  throw new Problem(status, title, [{ code, path, message }]);
};

/** @throws Problem 409 where the case is closed */
export const stillOpen = (row: CaseRow): void => {
  if (row.closed)
    refuse(
      409,
      'The case is closed',
      'order.closed',
      `Case ${row.number} is closed and is changed no more. Open another and name this one as related.`,
      'number'
    );
};

/** One line of the case's log. */
export const log = (tx: Db, caseId: number, actor: Actor, says: string) =>
  tx`
    INSERT INTO recall_log (case_id, by_id, says)
    VALUES (${caseId}, ${actor.personId}, ${says.slice(0, 4000)})
  `;

/** @throws Problem 409: the key belongs to another request */
export const keyUsed = (key: string): never =>
  refuse(
    409,
    'This idempotency key was used for something else',
    'key.used',
    `Send each request under a key of its own; ${shown(key)} was used before.`,
    'Idempotency-Key'
  );
