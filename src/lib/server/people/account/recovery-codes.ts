import { randomBytes } from 'node:crypto';
import { Secret } from 'otpauth';
import type { Db, Tx } from '../../kernel/db/client.ts';
import { secretHash } from '../password.ts';

const CODES = 10,
  /** Eighty bits, sixteen letters and digits. */
  CODE_BYTES = 10;

/** What was typed, without its dashes and spaces, in one case. */
const plain = (code: string): string => code.replace(/[\s-]/g, '').toUpperCase();

/**
 * Ten codes that each stand in for the second factor once, in place of those before. They are told
 * here and never again.
 */
export async function renewRecoveryCodes(tx: Tx, personId: number): Promise<string[]> {
  const codes = Array.from({ length: CODES }, () => {
    const text = new Secret({ buffer: Uint8Array.from(randomBytes(CODE_BYTES)).buffer }).base32;
    return text.match(/.{4}/g)!.join('-');
  });
  await tx`DELETE FROM recovery_code WHERE person_id = ${personId}`;
  const hashes = codes.map((code) => secretHash(plain(code)).toString('hex'));
  await tx`
    INSERT INTO recovery_code (code_hash, person_id)
    SELECT decode(hash, 'hex'), ${personId}::bigint FROM unnest(${hashes}::text[]) AS hash
  `;
  return codes;
}

/** Takes a recovery code; each is good once. */
export async function takeRecoveryCode(db: Db, personId: number, code: string): Promise<boolean> {
  const taken = await db`
    UPDATE recovery_code
    SET used_at = now()
    WHERE code_hash = ${secretHash(plain(code))} AND person_id = ${personId} AND used_at IS NULL
    RETURNING person_id
  `;
  return taken.length > 0;
}
