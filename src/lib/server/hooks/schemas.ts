import { z } from 'zod';
import { whatIsWrongWith } from '../../core/hooks/hook-address.ts';
import { HOOK_TYPE_NAMES } from '../../core/hooks/hook-types.ts';

const id = z.int().positive();
const instant = z.string();

export const NewHook = z
  .strictObject({
    name: z.string().trim().min(1).max(100),
    url: z
      .string()
      .trim()
      .min(1)
      .max(500)
      .superRefine((url, context) => {
        const wrong = whatIsWrongWith(url);
        if (wrong) context.addIssue({ code: 'custom', message: wrong });
      })
      .meta({ description: 'https, or http on this machine' }),
    types: z.array(z.enum(HOOK_TYPE_NAMES)).min(1).max(HOOK_TYPE_NAMES.length)
  })
  .meta({ id: 'NewHook' });

const hook = z.object({
  id,
  name: z.string(),
  url: z.string(),
  types: z.array(z.enum(HOOK_TYPE_NAMES)),
  made: instant,
  madeBy: z.string(),
  ended: instant.nullable(),
  waiting: z.int().meta({ description: 'Messages that are still to be sent' }),
  givenUp: z.int().meta({ description: 'Messages nobody took within three days' })
});

export const Hooks = z.object({ hooks: z.array(hook) }).meta({ id: 'Hooks' });

export const HookMade = z
  .object({
    id,
    secret: z.string().meta({ description: 'Told once; what messages are signed with' })
  })
  .meta({ id: 'HookMade' });

export const HookDeliveries = z
  .object({
    total: z.int(),
    deliveries: z.array(
      z.object({
        id,
        type: z.string(),
        about: z.string().meta({ description: 'The document, or the number of the recall' }),
        event: id.nullable(),
        recall: z.string().nullable(),
        at: instant,
        tries: z.int(),
        last: instant.nullable(),
        answer: z.string().nullable(),
        state: z.enum(['taken', 'waiting', 'given up']),
        next: instant.nullable()
      })
    )
  })
  .meta({ id: 'HookDeliveries' });
