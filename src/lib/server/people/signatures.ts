import type { z } from 'zod';
import { mayDo, rolesWith } from '../../core/people/rights.ts';
import { SIGNED_ACTS, type Signature } from '../../core/people/signing.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { atScreen, maySign, ownPassword } from './may-sign.ts';
import { newSecret, secretHash } from './password.ts';
import { personByPassword } from './person-by-password.ts';
import type { NewSignature } from './schemas.ts';
import { hasSecret, lockWords } from './word-by-secret.ts';

/** A signature is given just before the act; it waits this long for it. */
const SIGNATURE_MINUTES = 60;

const NOT_SIGNED = 'Not signed';

interface SignatureGiven {
  /** What the act says to go on with it. */
  signature: string;
  by: string;
  means: string;
  until: string;
}

/**
 * Signs one act on one document: whoever does it, with their password once more, or a second
 * person with theirs.
 * @throws Problem 403 where it is no person at a screen, 422 where name and password do not match
 * or they may not do the act themselves, 429 after too many wrong passwords
 */
export async function sign(
  sql: Sql,
  actor: Actor,
  given: z.infer<typeof NewSignature>
): Promise<SignatureGiven> {
  const { means, right } = SIGNED_ACTS[given.act];
  const login = given.login?.trim() || actor.login;
  const isOwn = numberKey(login) === numberKey(actor.login);
  if (isOwn) await maySign(sql, actor);
  else atScreen(actor);
  const shown = { login, password: given.password };
  const person = await personByPassword(sql, shown, { where: 'signature', title: NOT_SIGNED });
  await ownPassword(sql, person.id);
  if (!mayDo(person.roles, right)) {
    const message = `${person.name} may not sign this. ${rolesWith(right).join(' or ')} may.`;
    throw new Problem(422, NOT_SIGNED, [{ code: 'right.missing', path: 'login', message }]);
  }
  const secret = newSecret();
  const [row] = await sql<[{ signed_at: Date }]>`
    INSERT INTO signature (secret_hash, act, meaning, document, reason, signed_by, asked_by)
    VALUES (
      ${secretHash(secret)}, ${given.act}, ${means}, ${given.document.trim()}, ${given.reason},
        ${person.id}, ${actor.personId}
    )
    RETURNING signed_at
  `;
  const until = new Date(row.signed_at.getTime() + SIGNATURE_MINUTES * 60_000);
  return { signature: secret, by: person.name, means, until: until.toISOString() };
}

/**
 * The signatures an act comes with, one behind the other: each given for this person's act on this
 * document within the hour, and not used yet. What is not found signs nothing; the act then asks
 * again.
 * @param lock whether this is to use them: two acts then do not use one signature at once
 */
export async function readSignatures(
  tx: Tx,
  actor: Actor,
  request: { document: string; signature?: string | undefined },
  lock: boolean
): Promise<Signature[]> {
  if (request.signature === undefined) return [];
  const secrets = request.signature.split(' ');
  if (lock) await lockWords(tx, 'signature', secrets);
  return tx<Signature[]>`
    SELECT w.id, w.act, w.signed_by <> w.asked_by AS second
    FROM signature w
    WHERE ${hasSecret(tx, secrets)}
      AND w.asked_by = ${actor.personId}
      AND upper(w.document) = ${numberKey(request.document)}
      AND w.signed_at > clock_timestamp() - make_interval(mins => ${SIGNATURE_MINUTES})
      AND NOT EXISTS (SELECT FROM signed d WHERE d.signature_id = w.id)
    ORDER BY w.id
  `;
}

/** Ties a signature to what it signs. */
export const keepSigned = (
  tx: Tx,
  { id }: Signature,
  what: { event?: number; certificate?: number; case?: number }
): Promise<unknown> =>
  tx`
    INSERT INTO signed (signature_id, event_id, certificate, case_id)
    VALUES (${id}, ${what.event ?? null}, ${what.certificate ?? null}, ${what.case ?? null})
  `.execute();

export interface SignatureShown {
  means: string;
  by: string;
  at: string;
  reason: string;
}

/** The signatures under an event, a certificate or a case, in the order they were given. */
export async function readSigned(
  db: Db,
  what: { event?: number; certificate?: number; case?: number }
): Promise<SignatureShown[]> {
  const rows = await db<(Omit<SignatureShown, 'at'> & { at: Date })[]>`
    SELECT g.meaning AS means, p.name AS by, g.signed_at AS at, g.reason
    FROM signed d
      JOIN signature g ON g.id = d.signature_id
      JOIN person p ON p.id = g.signed_by
    WHERE d.event_id = ${what.event ?? null}
      OR d.certificate = ${what.certificate ?? null}
      OR d.case_id = ${what.case ?? null}
    ORDER BY g.id
  `;
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
