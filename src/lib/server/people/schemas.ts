import { z } from 'zod';
import { day, name, reason, rows, text, whole } from '../kernel/fields.ts';
import { SECURITY_KINDS } from '../../core/people/security-event.ts';
import { ROLES } from '../../core/people/rights.ts';
import { ACTS, MEANINGS } from '../../core/people/signing.ts';
import { SESSION_WAITS } from '../../core/people/session-wait.ts';

export const Person = z
  .strictObject({
    name,
    roles: z.array(z.enum(ROLES)).max(ROLES.length),
    active: z.boolean().default(true),
    password: z.string().max(1000).optional()
  })
  .meta({ id: 'Person' });

export const NewToken = z
  .strictObject({
    name: z.string().trim().min(1).max(100),
    roles: z.array(z.enum(ROLES)).min(1),
    days: whole(1, 730).default(365).meta({ description: 'How long it is good for' })
  })
  .meta({ id: 'NewToken' });

/** Most bytes of a sign-in: of a body with more than a name and a password nothing is read. */
export const MOST_SIGN_IN_BYTES = 4_000;

export const SignIn = z
  .strictObject({ login: z.string().max(200), password: z.string().max(1000) })
  .meta({ id: 'SignIn' });

const password = z.string().max(1000);
const code = z.string().trim().max(60);

export const PasswordChange = z
  .strictObject({ old: password, password })
  .meta({ id: 'PasswordChange' });

export const Confirmed = z.strictObject({ password }).meta({ id: 'Confirmed' });

export const Code = z.strictObject({ code }).meta({ id: 'Code' });

/** A second factor: a code, or what a passkey answered. */
export const SecondFactor = z
  .strictObject({ code: code.optional(), passkey: z.looseObject({ id: z.string() }).optional() })
  .refine(({ code: typed, passkey }) => (typed === undefined) !== (passkey === undefined), {
    error: 'Either a code or a passkey'
  })
  .meta({ id: 'SecondFactor' });

export const NewPasskey = z
  .strictObject({
    name: z.string().trim().min(1).max(100),
    response: z.looseObject({ id: z.string() })
  })
  .meta({ id: 'NewPasskey' });

export const Badge = z
  .strictObject({ badge: z.string().trim().min(4).max(100), pin: z.string().max(20), password })
  .meta({ id: 'Badge' });

/** Who comes to a locked device: by password, or by badge and PIN. */
export const Unlock = z
  .union([
    z.strictObject({ password }),
    z.strictObject({ badge: z.string().trim().min(1).max(100), pin: z.string().max(20) })
  ])
  .meta({ id: 'Unlock' });

export const AccessSettings = z
  .strictObject({
    factorRoles: z
      .array(z.enum(ROLES))
      .max(ROLES.length)
      .meta({ description: 'Whoever has one of these roles needs a second factor' }),
    lockMinutes: whole(1, 840).meta({ description: 'A device left alone locks after so long' }),
    onlyLocal: z.string().max(100).nullable().optional().meta({
      description:
        'Sign-in of the only one who may still come in with a password; everybody where null, as it was where not given'
    })
  })
  .meta({ id: 'AccessSettings' });

export const NewApproval = z
  .strictObject({
    login: z.string().max(200).meta({ description: 'Who approves; another than who books' }),
    password: z.string().max(1000),
    document: text.min(1).meta({ description: 'Document of the booking it is for' }),
    reason: reason.meta({ description: 'Why it may go on; kept with the event for ever' }),
    faults: rows(
      z.strictObject({
        code: z.string().max(40),
        number: text.nullable().default(null),
        message: z.string().max(4000)
      })
    )
      .min(1)
      .meta({ description: 'The faults that may pass, as the check named them' })
  })
  .meta({ id: 'NewApproval' });

export const NewSignature = z
  .strictObject({
    act: z.enum(ACTS),
    document: text.min(1).meta({
      description: 'What is signed: the document of the booking, the case, or what is certified'
    }),
    login: z.string().max(200).optional().meta({
      description: 'Who signs, where it is a second person; whoever asks where not given'
    }),
    password: z.string().max(1000),
    reason: reason.meta({ description: 'Why, kept with what is signed for ever' })
  })
  .meta({ id: 'NewSignature' });

export const SignatureGiven = z
  .strictObject({
    signature: z.string().meta({ description: 'What the act says in signature' }),
    by: z.string(),
    means: z.enum(MEANINGS),
    until: z.iso.datetime()
  })
  .meta({ id: 'SignatureGiven' });

export const Approval = z
  .strictObject({
    approval: z.string().meta({ description: 'What the booking says in approvals' }),
    by: z.string(),
    until: z.iso.datetime()
  })
  .meta({ id: 'Approval' });

export const SecurityQuery = z.object({
  kind: z.enum(SECURITY_KINDS).optional(),
  who: z.string().trim().max(100).optional().meta({ description: 'Sign-in of a person' }),
  from: day.optional(),
  to: day.optional(),
  before: z.coerce.number().int().min(1).optional(),
  format: z.enum(['json', 'csv', 'xlsx']).default('json')
});

/** Recovery codes, where they were made: told once. */
export const RecoveryCodes = z
  .strictObject({ recovery: z.array(z.string()) })
  .meta({ id: 'RecoveryCodes' });

export const SignedInAnswer = z
  .strictObject({
    login: z.string(),
    name: z.string(),
    wait: z
      .enum(SESSION_WAITS)
      .optional()
      .meta({ description: 'What the session waits for before it may do anything else' })
  })
  .meta({ id: 'SignedIn' });

const role = z.enum(ROLES);

export const AccountAnswer = z
  .strictObject({
    login: z.string(),
    name: z.string(),
    roles: z.array(role),
    hasPassword: z.boolean(),
    passwordSince: z.string().nullable(),
    factors: z.strictObject({ timeCode: z.boolean(), passkeys: z.int(), recovery: z.int() }),
    passkeys: z.array(
      z.strictObject({
        id: z.int(),
        name: z.string(),
        since: z.string(),
        lastUsed: z.string().nullable()
      })
    ),
    badge: z.boolean(),
    sessions: z.array(
      z.strictObject({
        id: z.int(),
        here: z.boolean(),
        since: z.string(),
        lastSeen: z.string(),
        until: z.string(),
        address: z.string(),
        agent: z.string()
      })
    ),
    tokens: z.array(
      z.strictObject({
        id: z.int(),
        name: z.string(),
        roles: z.array(role),
        created: z.string(),
        madeBy: z.string().nullable(),
        until: z.string().nullable(),
        lastUsed: z.string().nullable(),
        revoked: z.boolean()
      })
    )
  })
  .meta({ id: 'Account' });
