import type { z } from 'zod';
import { mayDo, rolesWith } from '../../core/people/rights.ts';
import { SIGNED_ACTS, type Signature } from '../../core/people/signing.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { attemptSucceeded, requireAttempt } from './attempts.ts';
import { atScreen, maySign, ownPassword } from './may-sign.ts';
import { newSecret, passwordMatches, secretHash } from './password.ts';
import { personByLogin } from './person-by-login.ts';
import type { NewSignature } from './schemas.ts';

/** A signature is given just before the act; it waits this long for it. */
const SIGNATURE_MINUTES = 60;

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
  await requireAttempt(sql, login, 'signature', 'password');
  const person = await personByLogin(sql, login);
  const matches = await passwordMatches(person?.password ?? null, given.password);
  if (!person || !matches)
    return refuse('password', 'Name and password do not match. Check both and try again.');
  await attemptSucceeded(sql, login, 'signature');
  await ownPassword(sql, person.id);
  if (!mayDo(person.roles, right))
    return refuse(
      'login',
      `${person.name} may not sign this. ${rolesWith(right).join(' or ')} may.`
    );
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

function refuse(path: string, message: string): never {
  throw new Problem(422, 'Not signed', [{ code: 'right.missing', path, message }]);
}

/**
 * The signatures an act comes with, one behind the other: each given for this person's act on this
 * document within the hour, and not used yet. What is not found signs nothing; the act then asks
 * again.
 * @param lock whether this is to use them: two acts then do not use one signature at once
 */
export async function readSignatures(
  tx: Tx | Sql,
  actor: Actor,
  request: { document: string; signature?: string | undefined },
  lock: boolean
): Promise<Signature[]> {
  if (request.signature === undefined) return [];
  const hashes = request.signature.split(' ').map((secret) => secretHash(secret).toString('hex'));
  const named = tx`
    g.secret_hash IN (SELECT decode(hash, 'hex') FROM unnest(${hashes}::text[]) AS hash)
  `;
  if (lock)
    await tx`
      SELECT pg_advisory_xact_lock(hashtextextended('signature ' || id, 0))
      FROM (SELECT g.id FROM signature g WHERE ${named} ORDER BY g.id) s
    `;
  return tx<Signature[]>`
    SELECT g.id, g.act, g.signed_by <> g.asked_by AS second
    FROM signature g
    WHERE ${named}
      AND g.asked_by = ${actor.personId}
      AND upper(g.document) = ${numberKey(request.document)}
      AND g.signed_at > clock_timestamp() - make_interval(mins => ${SIGNATURE_MINUTES})
      AND NOT EXISTS (SELECT FROM signed d WHERE d.signature_id = g.id)
    ORDER BY g.id
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
