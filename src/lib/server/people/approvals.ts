import type { z } from 'zod';
import type { Granted } from '../../core/faults/granted.ts';
import { mayDo, rolesWith } from '../../core/people/rights.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { ownPassword } from './may-sign.ts';
import { newSecret, secretHash } from './password.ts';
import { personByPassword } from './person-by-password.ts';
import type { NewApproval } from './schemas.ts';
import { hasSecret, lockWords } from './word-by-secret.ts';

/** An approval is given beside the one who books; it waits this long for the booking. */
const APPROVAL_MINUTES = 60;

const NOT_APPROVED = 'Not approved';

export interface ApprovalGiven {
  /** What the booking says to go on with it. */
  approval: string;
  by: string;
  until: string;
}

/**
 * A second person lets faults pass: these, of this document, for the person who asks. Their
 * password says that it is they.
 * @throws Problem 422 where name and password do not match, they are who asks, or may not approve;
 * 429 after too many wrong passwords
 */
export async function approve(
  sql: Sql,
  asker: Actor,
  given: z.infer<typeof NewApproval>
): Promise<ApprovalGiven> {
  const person = await personByPassword(sql, given, {
    ...{ where: 'approval', title: NOT_APPROVED, orElse: ', or have another person approve it' }
  });
  if (person.id === asker.personId)
    refuse('login', `You book this yourself, ${person.name}. Another person must approve it.`);
  await ownPassword(sql, person.id);
  if (!mayDo(person.roles, 'approve'))
    refuse('login', `${person.name} may not approve. ${rolesWith('approve').join(' or ')} may.`);
  const secret = newSecret();
  const [row] = await sql<[{ approved_at: Date }]>`
    INSERT INTO approval (secret_hash, approved_by, asked_by, document, faults, reason)
    VALUES (
      ${secretHash(secret)}, ${person.id}, ${asker.personId}, ${given.document.trim()},
        ${sql.json(given.faults)}, ${given.reason}
    )
    RETURNING approved_at
  `;
  const until = new Date(row.approved_at.getTime() + APPROVAL_MINUTES * 60_000);
  return { approval: secret, by: person.name, until: until.toISOString() };
}

function refuse(path: string, message: string): never {
  throw new Problem(422, NOT_APPROVED, [{ code: 'right.missing', path, message }]);
}

interface FaultRow {
  approval: number;
  reason: string;
  code: string;
  number: string | null;
}

/**
 * What these approvals let pass: given to this person for this document within the hour, and not
 * used by a booking yet. What is not found lets nothing pass; the booking then asks again.
 * @param lock whether this is to book: two bookings then do not use one approval at once
 */
export async function readApproved(
  tx: Tx,
  actor: Actor,
  request: { document: string; approvals?: readonly string[] },
  lock: boolean
): Promise<Granted[]> {
  const secrets = request.approvals ?? [];
  if (secrets.length === 0) return [];
  if (lock) await lockWords(tx, 'approval', secrets);
  return tx<FaultRow[]>`
    SELECT w.id AS approval, w.reason, f.code, f.number
    FROM approval w,
      jsonb_to_recordset(w.faults) AS f(code text, number text)
    WHERE ${hasSecret(tx, secrets)}
      AND w.asked_by = ${actor.personId}
      AND upper(w.document) = ${numberKey(request.document)}
      AND w.approved_at > clock_timestamp() - make_interval(mins => ${APPROVAL_MINUTES})
      AND NOT EXISTS (SELECT FROM booking_remark r WHERE r.approval_id = w.id)
  `;
}

/**
 * What was let pass for an order before this booking: by whoever promised or picked its goods, and
 * by whoever packed them.
 */
export const readGrantedBefore = (db: Db, orderId: number): Promise<Granted[]> =>
  db<Granted[]>`
    SELECT code, number, reason, approval_id AS approval
    FROM promise_remark
    WHERE order_id = ${orderId} AND reason IS NOT NULL
    UNION
    SELECT r.code, r.number, r.reason, r.approval_id
    FROM event e
      JOIN booking_remark r ON r.event_id = e.id
    WHERE e.order_id = ${orderId} AND e.kind = 'pack' AND r.reason IS NOT NULL
  `;
