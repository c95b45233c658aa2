import type { Tx } from '../kernel/db/client.ts';
import { secretHash } from './password.ts';

/** Tables of words that somebody gave for one document, to be used once by who knows their secret. */
type Words = 'approval' | 'signature';

/** The words (alias `w`) that have one of these secrets, as a condition. */
export function hasSecret(tx: Tx, secrets: readonly string[]) {
  const hashes = secrets.map((secret) => secretHash(secret).toString('hex'));
  return tx`
    w.secret_hash IN (SELECT decode(hash, 'hex') FROM unnest(${hashes}::text[]) AS hash)
  `;
}

/** Locks words until the transaction ends: two acts then do not use one of them at once. */
export const lockWords = (tx: Tx, words: Words, secrets: readonly string[]) =>
  tx`
    SELECT pg_advisory_xact_lock(hashtextextended(${`${words} `}::text || id, 0))
    FROM (SELECT w.id FROM ${tx(words)} w WHERE ${hasSecret(tx, secrets)} ORDER BY w.id) s
  `;
