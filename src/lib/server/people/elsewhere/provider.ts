import * as oidc from 'openid-client';
import type { Claims } from '../../../core/people/claims.ts';
import type { Db } from '../../kernel/db/client.ts';
import { newSecret, secretHash } from '../password.ts';
import type { ElsewhereSettings } from './settings.ts';

/** Somebody has so long to sign in there. */
const MOST_MINUTES = 15;
const MOST_SECONDS_OF_PROVIDER = 10;
const found = new Map<string, Promise<oidc.Configuration>>();

/** Only on the machine itself may a provider be asked without TLS. */
const isHere = (issuer: URL): boolean =>
  ['localhost', '127.0.0.1', '[::1]'].includes(issuer.hostname);

/** What the provider says of itself, asked once; asked anew where it could not be reached. */
function discovered({ issuer, clientId, clientSecret }: ElsewhereSettings) {
  const known = found.get(issuer);
  if (known) return known;
  const url = new URL(issuer);
  const asked = oidc.discovery(url, clientId, clientSecret, undefined, {
    timeout: MOST_SECONDS_OF_PROVIDER,
    ...(isHere(url) ? { execute: [oidc.allowInsecureRequests] } : {})
  });
  found.set(issuer, asked);
  asked.catch(() => found.delete(issuer));
  return asked;
}

export interface Begun {
  /** Where the browser goes to sign in. */
  address: string;
  /** Kept in the browser: the answer must come back to the same one. */
  state: string;
}

/**
 * Begins a sign-in at the provider.
 * @param back the address of ours it comes back to
 * @param to the path of ours to go on to then
 * @throws where the provider cannot be reached
 */
export async function beginElsewhere(
  db: Db,
  settings: ElsewhereSettings,
  back: string,
  to: string
): Promise<Begun> {
  const config = await discovered(settings);
  const [verifier, state, nonce] = [oidc.randomPKCECodeVerifier(), newSecret(), newSecret()];
  await db`
    DELETE FROM sign_in_begun
    WHERE begun_at < clock_timestamp() - make_interval(mins => ${MOST_MINUTES})
  `;
  await db`
    INSERT INTO sign_in_begun (state_hash, verifier, nonce, to_path)
    VALUES (${secretHash(state)}, ${verifier}, ${nonce}, ${to.slice(0, 2000)})
  `;
  const address = oidc.buildAuthorizationUrl(config, {
    ...{ redirect_uri: back, scope: 'openid profile email', state, nonce },
    code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256'
  });
  return { address: address.href, state };
}

export interface Ended {
  issuer: string;
  subject: string;
  claims: Claims;
  to: string;
}

/**
 * Takes the provider's answer: once, in the browser that began it, within its time, with its
 * signature, its nonce and the code's verifier as they were (OpenID Connect Core 1.0, 3.1.3.7).
 * @param state what the browser kept
 * @returns null where nothing of it was begun here
 * @throws where the answer does not hold, or says that nobody signed in
 */
export async function endElsewhere(
  db: Db,
  settings: ElsewhereSettings,
  answer: URL,
  state: string
): Promise<Ended | null> {
  const [begun] = await db<{ verifier: string; nonce: string; to: string }[]>`
    DELETE FROM sign_in_begun
    WHERE state_hash = ${secretHash(state)}
      AND begun_at > clock_timestamp() - make_interval(mins => ${MOST_MINUTES})
    RETURNING verifier, nonce, to_path AS to
  `;
  if (!begun) return null;
  const config = await discovered(settings);
  const tokens = await oidc.authorizationCodeGrant(config, answer, {
    ...{ pkceCodeVerifier: begun.verifier, expectedState: state },
    ...{ expectedNonce: begun.nonce, idTokenExpected: true }
  });
  const told = tokens.claims()!;
  const more = await moreClaims(config, tokens.access_token, told.sub);
  return { issuer: told.iss, subject: told.sub, claims: { ...more, ...told }, to: begun.to };
}

/** What a provider keeps out of the token itself: roles often stand only here. */
async function moreClaims(
  config: oidc.Configuration,
  accessToken: string,
  subject: string
): Promise<Claims> {
  if (!config.serverMetadata().userinfo_endpoint) return {};
  return oidc.fetchUserInfo(config, accessToken, subject);
}
