import { createPrivateKey, createPublicKey, sign, type KeyObject } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { headText, type Head } from '../../core/seal/head.ts';

/** The key heads are signed with. It is never in the database, whose owner could sign a past of their own. */
export interface SealKey {
  /** The public key, 32 bytes. */
  public: Buffer;
  sign: (head: Head) => Buffer;
}

/** The last 32 bytes of a public key's SubjectPublicKeyInfo are the key itself (RFC 8410). */
const RAW_BYTES = 32;

export const sealKeyOf = (key: KeyObject): SealKey => ({
  public: createPublicKey(key).export({ type: 'spki', format: 'der' }).subarray(-RAW_BYTES),
  sign: (head) => sign(null, Buffer.from(headText(head)), key)
});

let known: SealKey | null = null;

/**
 * The key of EARMARK_SEAL_KEY, a file that `npm start` makes in the data folder.
 * @throws where it is not set or cannot be read
 */
export function sealKey(): SealKey {
  const file = process.env.EARMARK_SEAL_KEY;
  if (!file) throw new Error('EARMARK_SEAL_KEY is not set; start Earmark with `npm start`.');
  return (known ??= sealKeyOf(createPrivateKey(readFileSync(file))));
}

/** The public key of our heads in base64; null where the ledger is not sealed here. */
export const ourPublicKey = (): string | null =>
  process.env.EARMARK_SEAL_KEY ? sealKey().public.toString('base64') : null;
