import { randomBytes, createHash } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/**
 * argon2id with the parameters RFC 9106 names second (64 MiB, three passes) but for one lane, as a
 * server hashes one at a time.
 */
const OPTIONS = {
  algorithm: 2 /* Algorithm.Argon2id; the enum is const and cannot be imported */,
  memoryCost: 65_536,
  timeCost: 3,
  parallelism: 1
};

export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

let decoy: Promise<string> | undefined;

/**
 * Checks a password. Where there is no such person it takes as long as if there were, so that
 * timing tells nothing.
 */
export async function passwordMatches(stored: string | null, password: string): Promise<boolean> {
  if (stored === null) {
    decoy ??= hashPassword(randomBytes(16).toString('hex'));
    await verify(await decoy, password);
    return false;
  }
  return verify(stored, password);
}

/** A secret for a session or an API token: 256 bits, safe in a header. Only its hash is stored. */
export const newSecret = (): string => randomBytes(32).toString('base64url');

/**
 * The stored form of a secret. A plain hash is enough for 256 random bits; passwords use argon2id.
 */
export const secretHash = (secret: string): Buffer => createHash('sha256').update(secret).digest();
