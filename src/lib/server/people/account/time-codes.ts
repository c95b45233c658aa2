import bwip from 'bwip-js/node';
import { Secret, TOTP } from 'otpauth';
import type { Db, Sql, Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { boxed, unboxed } from './boxed.ts';

/** As RFC 6238 and every program for codes has it: SHA-1, six digits, thirty seconds. */
const SETTINGS = { algorithm: 'SHA1', digits: 6, period: 30 };
const SECRET_BYTES = 20;
/** Clocks may be one step apart. */
const WINDOW = 1;

const totpOf = (secret: Uint8Array, label: string): TOTP =>
  new TOTP({
    ...SETTINGS,
    issuer: 'Earmark',
    label,
    secret: new Secret({ buffer: bufferOf(secret) })
  });

const bufferOf = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer;

/** What a program for codes is given: to be scanned, or typed. */
export interface TimeCodeOffer {
  /** `otpauth://totp/…`, which the picture says too. */
  uri: string;
  /** The secret in base32, to be typed. */
  secret: string;
  /** The same as a QR code, an SVG as a data address. */
  picture: string;
}

/**
 * Makes a secret for time codes, in place of one that was not confirmed. It counts once a code of it
 * is typed.
 * @throws Problem 409 where there is one that counts
 */
export async function offerTimeCode(
  sql: Sql,
  person: { personId: number; login: string }
): Promise<TimeCodeOffer> {
  const secret = new Secret({ size: SECRET_BYTES });
  const kept = await sql`
    INSERT INTO time_code (person_id, secret)
    VALUES (${person.personId}, ${boxed(new Uint8Array(secret.buffer), person.personId)})
    ON CONFLICT (person_id) DO UPDATE
    SET secret = EXCLUDED.secret, created_at = now(), last_step = 0
    WHERE time_code.confirmed_at IS NULL
    RETURNING person_id
  `;
  if (kept.length === 0)
    throw new Problem(409, 'You have time codes already', [
      {
        code: 'key.used',
        path: '',
        message: 'Take them away first; then set them up on the other device.'
      }
    ]);
  const totp = totpOf(new Uint8Array(secret.buffer), person.login);
  const uri = totp.toString();
  const svg = bwip.toSVG({ bcid: 'qrcode', text: uri, scale: 4 });
  const picture = `data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`;
  return { uri, secret: secret.base32, picture };
}

/**
 * Takes a time code: right, of now or one step beside it, and not taken before. The first one
 * confirms a secret that is offered.
 * @param confirming whether it is to confirm one; else it must be confirmed
 * @param at milliseconds since 1970
 */
export async function takeTimeCode(
  tx: Tx,
  personId: number,
  code: string,
  confirming: boolean,
  at = Date.now()
): Promise<boolean> {
  const [kept] = await tx<{ secret: Uint8Array; last_step: number }[]>`
    SELECT secret, last_step
    FROM time_code
    WHERE person_id = ${personId} AND (confirmed_at IS NULL) = ${confirming}
    FOR UPDATE
  `;
  if (!kept || !/^\d{6}$/.test(code)) return false;
  const secret = opened(kept.secret, personId);
  if (!secret) return false;
  const totp = totpOf(secret, '');
  const beside = totp.validate({ token: code, window: WINDOW, timestamp: at });
  if (beside === null) return false;
  const step = Math.floor(at / 1000 / SETTINGS.period) + beside;
  if (step <= kept.last_step) return false;
  await tx`
    UPDATE time_code
    SET last_step = ${step}, confirmed_at = coalesce(confirmed_at, now())
    WHERE person_id = ${personId}
  `;
  return true;
}

/**
 * The secret; null where this machine's key does not open it, as after a restore without the key: the
 * recovery codes still stand in.
 */
function opened(kept: Uint8Array, personId: number): Uint8Array | null {
  try {
    return unboxed(kept, personId);
  } catch (error) {
    console.error('A secret of time codes cannot be opened: is it another factor-key?', error);
    return null;
  }
}

export async function dropTimeCode(db: Db, personId: number): Promise<void> {
  await db`DELETE FROM time_code WHERE person_id = ${personId}`;
}
