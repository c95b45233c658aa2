import { z } from 'zod';
import { day, name, reason, rows, text, whole } from '../kernel/fields.ts';
import { SECURITY_KINDS } from '../../core/people/security-event.ts';
import { ROLES } from '../../core/people/rights.ts';

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
