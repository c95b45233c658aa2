import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';

const KEY_BYTES = 32,
  IV_BYTES = 12,
  TAG_BYTES = 16;

let known: Buffer | null = null;

/** The key of EARMARK_FACTOR_KEY, a file `npm start` makes in the data folder, outside of the database. */
function boxKey(): Buffer {
  const file = process.env.EARMARK_FACTOR_KEY;
  if (!file) throw new Error('EARMARK_FACTOR_KEY is not set; start Earmark with `npm start`.');
  known ??= Buffer.from(readFileSync(file, 'utf8').trim(), 'hex');
  if (known.length !== KEY_BYTES) throw new Error(`${file} is no key of ${KEY_BYTES} bytes.`);
  return known;
}

/**
 * A secret as it is kept in the database: AES-256-GCM, for one person only, so that neither a copy of
 * the database nor a row moved to somebody else opens it.
 */
export function boxed(secret: Uint8Array, personId: number): Buffer {
  const iv = randomBytes(IV_BYTES);
  const cipher = createCipheriv('aes-256-gcm', boxKey(), iv).setAAD(Buffer.from(String(personId)));
  return Buffer.concat([iv, cipher.update(secret), cipher.final(), cipher.getAuthTag()]);
}

/** @throws where it was not boxed with this key for this person */
export function unboxed(box: Uint8Array, personId: number): Buffer {
  const bytes = Buffer.from(box);
  const decipher = createDecipheriv('aes-256-gcm', boxKey(), bytes.subarray(0, IV_BYTES))
    .setAAD(Buffer.from(String(personId)))
    .setAuthTag(bytes.subarray(-TAG_BYTES));
  return Buffer.concat([decipher.update(bytes.subarray(IV_BYTES, -TAG_BYTES)), decipher.final()]);
}
