import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON
} from '@simplewebauthn/server';
import type { Db, Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';

/** What a passkey is asked to sign is good for so long. */
const CHALLENGE_MINUTES = 5;
const MOST_PASSKEYS = 20;

/** Where a passkey is asked for: it answers nowhere else. */
export interface Site {
  /** `https://earmark.example` */
  origin: string;
  /** Its host, which a passkey is made for. */
  host: string;
}

export const siteOf = (url: URL): Site => ({ origin: url.origin, host: url.hostname });

/** Whose passkey, and the session that keeps what it is asked to sign. */
export interface Holder {
  personId: number;
  login: string;
  name: string;
  sessionId: number;
}

async function keysOf(db: Db, personId: number): Promise<{ id: string; transports: string[] }[]> {
  return db<{ id: string; transports: string[] }[]>`
    SELECT credential_id AS id, transports FROM passkey WHERE person_id = ${personId} ORDER BY id
  `;
}

async function keepChallenge(db: Db, sessionId: number, challenge: string): Promise<void> {
  await db`
    UPDATE session SET challenge = ${challenge}, challenge_at = now() WHERE id = ${sessionId}
  `;
}

/** What a session's passkey was asked to sign; it is asked once. */
async function takeChallenge(db: Db, sessionId: number): Promise<string | null> {
  const [row] = await db<{ challenge: string | null }[]>`
    UPDATE session s
    SET challenge = NULL
    FROM (SELECT id, challenge FROM session WHERE id = ${sessionId} FOR UPDATE) b
    WHERE s.id = b.id
      AND s.challenge_at > now() - make_interval(mins => ${CHALLENGE_MINUTES})
    RETURNING b.challenge
  `;
  return row?.challenge ?? null;
}

/** What a browser needs to make a passkey. */
export async function offerPasskey(
  db: Db,
  holder: Holder,
  site: Site
): Promise<PublicKeyCredentialCreationOptionsJSON> {
  const options = await generateRegistrationOptions({
    rpName: 'Earmark',
    rpID: site.host,
    userName: holder.login,
    userDisplayName: holder.name,
    userID: Uint8Array.from(Buffer.from(`person ${holder.personId}`)),
    excludeCredentials: (await keysOf(db, holder.personId)) as { id: string }[],
    authenticatorSelection: { residentKey: 'preferred', userVerification: 'preferred' }
  });
  await keepChallenge(db, holder.sessionId, options.challenge);
  return options;
}

/**
 * Keeps a passkey a browser has made.
 * @throws Problem 422 where it was not made for this, here and now
 */
export async function keepPasskey(
  tx: Tx,
  holder: Holder,
  site: Site,
  { name, response }: { name: string; response: unknown }
): Promise<void> {
  const challenge = await takeChallenge(tx, holder.sessionId);
  if (challenge === null) throw notMade();
  const { verified, registrationInfo } = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: challenge,
    expectedOrigin: site.origin,
    expectedRPID: site.host,
    requireUserVerification: false
  }).catch(() => {
    throw notMade();
  });
  if (!verified) throw notMade();
  if ((await keysOf(tx, holder.personId)).length >= MOST_PASSKEYS) throw tooMany();
  const { credential } = registrationInfo;
  await tx`
    INSERT INTO passkey (person_id, credential_id, public_key, counter, transports, name)
    VALUES (
      ${holder.personId}, ${credential.id}, ${Buffer.from(credential.publicKey)},
        ${credential.counter}, ${(credential.transports ?? []).map(String)}, ${name}
    )
  `;
}

/** What a browser needs to ask for one of a person's passkeys. */
export async function askPasskey(
  db: Db,
  holder: Pick<Holder, 'personId' | 'sessionId'>,
  site: Site
): Promise<PublicKeyCredentialRequestOptionsJSON> {
  const options = await generateAuthenticationOptions({
    rpID: site.host,
    allowCredentials: (await keysOf(db, holder.personId)) as { id: string }[],
    userVerification: 'preferred'
  });
  await keepChallenge(db, holder.sessionId, options.challenge);
  return options;
}

/** Whether a passkey of the person has signed what it was asked to, here and now. */
export async function takePasskey(
  tx: Tx,
  { personId, sessionId }: Pick<Holder, 'personId' | 'sessionId'>,
  site: Site,
  given: unknown
): Promise<boolean> {
  const challenge = await takeChallenge(tx, sessionId);
  const response = given as AuthenticationResponseJSON;
  const [kept] = await tx<{ public_key: Uint8Array; counter: number }[]>`
    SELECT public_key, counter
    FROM passkey
    WHERE person_id = ${personId} AND credential_id = ${String(response.id)}
    FOR UPDATE
  `;
  if (challenge === null || !kept) return false;
  const { verified, authenticationInfo } = await verifyAuthenticationResponse({
    response,
    expectedChallenge: challenge,
    expectedOrigin: site.origin,
    expectedRPID: site.host,
    credential: {
      id: response.id,
      publicKey: Uint8Array.from(kept.public_key),
      counter: kept.counter
    },
    requireUserVerification: false
  }).catch(() => ({ verified: false, authenticationInfo: { newCounter: 0 } }));
  if (!verified) return false;
  await tx`
    UPDATE passkey
    SET counter = ${authenticationInfo.newCounter}, last_used_at = now()
    WHERE credential_id = ${response.id}
  `;
  return true;
}

export async function dropPasskey(db: Db, personId: number, id: number): Promise<void> {
  await db`DELETE FROM passkey WHERE person_id = ${personId} AND id = ${id}`;
}

const notMade = (): Problem =>
  new Problem(422, 'The passkey was not made', [
    {
      code: 'right.missing',
      path: 'response',
      message: 'It was not made for this sign-in, or too long ago. Begin again.'
    }
  ]);

const tooMany = (): Problem =>
  new Problem(422, 'You have many passkeys', [
    {
      code: 'right.missing',
      path: '',
      message: `${MOST_PASSKEYS} is the most. Take one away that is not used any more.`
    }
  ]);
