import { z } from 'zod';
import { name } from '../kernel/fields.ts';
import { ROLES } from '../../core/people/rights.ts';

export const Person = z
  .strictObject({
    name,
    roles: z.array(z.enum(ROLES)).max(7),
    active: z.boolean().default(true),
    password: z.string().max(1000).optional()
  })
  .meta({ id: 'Person' });

export const NewToken = z
  .strictObject({ name: z.string().trim().min(1).max(100), roles: z.array(z.enum(ROLES)).min(1) })
  .meta({ id: 'NewToken' });

export const SignIn = z
  .strictObject({ login: z.string().max(200), password: z.string().max(1000) })
  .meta({ id: 'SignIn' });
