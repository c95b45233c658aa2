import { z } from 'zod';
import * as schemas from '../../people/schemas.ts';
import { anything, nothing, type Operation } from './operation.ts';

/** What a person does with their own account, and how sessions come in and go on. */
export const ACCOUNT_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/account',
    summary: 'One’s own account: factors, sessions, tokens; not with a token',
    answer: schemas.AccountAnswer
  },
  {
    method: 'put',
    path: '/account/password',
    summary: 'Change one’s password; other sessions and all tokens end',
    body: schemas.PasswordChange,
    answer: nothing
  },
  {
    method: 'delete',
    path: '/account/sessions',
    summary: 'End one of one’s sessions, or without an id all but this one',
    query: z.object({ id: z.coerce.number().int().optional() }),
    answer: nothing
  },
  {
    method: 'delete',
    path: '/account/tokens',
    summary: 'End one of one’s tokens',
    query: z.object({ id: z.coerce.number().int() }),
    answer: nothing
  },
  {
    method: 'post',
    path: '/account/time-code',
    summary: 'A secret for time codes (RFC 6238); it counts once a code of it is sent',
    body: schemas.Confirmed,
    answer: z.object({ uri: z.string(), secret: z.string(), picture: z.string() })
  },
  {
    method: 'put',
    path: '/account/time-code',
    summary: 'The first code: from now on time codes count',
    body: schemas.Code,
    answer: schemas.RecoveryCodes
  },
  {
    method: 'delete',
    path: '/account/time-code',
    summary: 'Do without time codes',
    body: schemas.Confirmed,
    answer: nothing
  },
  {
    method: 'post',
    path: '/account/recovery-codes',
    summary: 'Ten new recovery codes in place of the old ones; told once',
    body: schemas.Confirmed,
    answer: schemas.RecoveryCodes
  },
  {
    method: 'post',
    path: '/account/passkeys/options',
    summary: 'What a browser needs to make a passkey (WebAuthn)',
    body: schemas.Confirmed,
    answer: anything
  },
  {
    method: 'post',
    path: '/account/passkeys',
    summary: 'Keep the passkey a browser made',
    body: schemas.NewPasskey,
    answer: schemas.RecoveryCodes
  },
  {
    method: 'delete',
    path: '/account/passkeys',
    summary: 'Take a passkey away',
    query: z.object({ id: z.coerce.number().int() }),
    body: schemas.Confirmed,
    answer: nothing
  },
  {
    method: 'put',
    path: '/account/badge',
    summary: 'Tie a badge with its PIN to oneself',
    body: schemas.Badge,
    answer: nothing
  },
  { method: 'delete', path: '/account/badge', summary: 'Untie the badge', answer: nothing },
  {
    method: 'post',
    path: '/sign-in',
    summary: 'Sign in; the answer names what the session waits for, such as the second factor',
    body: schemas.SignIn,
    answer: schemas.SignedInAnswer
  },
  {
    method: 'post',
    path: '/sign-in/second',
    summary: 'Show the second factor: a code, or what a passkey answered',
    body: schemas.SecondFactor,
    answer: schemas.SignedInAnswer
  },
  {
    method: 'post',
    path: '/sign-in/passkey',
    summary: 'What a browser needs to ask for a passkey (WebAuthn)',
    answer: anything
  },
  { method: 'post', path: '/session/lock', summary: 'Lock this device', answer: nothing },
  { method: 'get', path: '/session/lock', summary: 'Somebody is still there', answer: nothing },
  {
    method: 'post',
    path: '/session/unlock',
    summary: 'Come back to a locked device: by password, or by badge and PIN',
    body: schemas.Unlock,
    answer: schemas.SignedInAnswer
  },
  {
    method: 'get',
    path: '/access-settings',
    summary: 'Of whom a second factor is demanded, and when a device locks',
    answer: schemas.AccessSettings
  },
  {
    method: 'put',
    path: '/access-settings',
    summary: 'Say of whom a second factor is demanded, and when a device locks',
    body: schemas.AccessSettings,
    answer: schemas.AccessSettings
  },
  {
    method: 'delete',
    path: '/people/{login}/factors',
    summary: 'Take the second factors of somebody away whose device is lost',
    answer: nothing
  }
];
