import { z } from 'zod';

const hexHash = z.string().regex(/^[0-9a-f]{64}$/);
const whole = z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER);

/** One of them is asked for; of a trace, what cuts it is read as on its screen. */
export const ProofQuery = z
  .looseObject({
    event: whole.optional(),
    trace: z
      .string()
      .regex(/^s?\d{1,15}$/, 'Give the id of a mark, or of a set after an s')
      .optional()
      .meta({ description: 'A trace as its address names it; cut by direction, until, from, …' }),
    case: z.string().max(100).optional().meta({ description: 'Number of a recall' }),
    certificate: whole.optional()
  })
  .refine(
    ({ event, trace, case: recall, certificate }) =>
      [event, trace, recall, certificate].filter((one) => one !== undefined).length === 1,
    { error: 'Say one of event, trace, case and certificate' }
  );
export const CheckpointQuery = z.strictObject({
  from: whole.optional().meta({ description: 'Events of an earlier head, to be shown it went on' })
});
export const FeedQuery = z.strictObject({
  after: z
    .string()
    .regex(/^\d{1,15}$/, 'That is no cursor of ours: give the last answer’s next')
    .optional(),
  limit: z.coerce.number().int().min(1).max(1000).default(100)
});

export const SealedHead = z
  .object({
    size: z.number().meta({ description: 'Events sealed' }),
    root: hexHash.meta({ description: 'Root of the tree, RFC 9162' }),
    at: z.iso.datetime(),
    key: z.string().meta({ description: 'Public key, Ed25519, base64' }),
    signature: z.string().meta({ description: 'Of the head’s text (docs/security.md), base64' })
  })
  .meta({ id: 'SealedHead' });

export const Checkpoint = z
  .object({ head: SealedHead, consistency: z.array(hexHash).optional() })
  .meta({ id: 'Checkpoint' });

export const Proof = z
  .object({
    event: z.number(),
    entry: z.string().meta({ description: 'The event with all its rows, as it was sealed' }),
    position: z.number(),
    path: z.array(hexHash),
    head: SealedHead
  })
  .meta({ id: 'Proof' });

export const ProofOfMany = z
  .object({
    of: z.string().meta({ description: 'What rests on the events' }),
    head: SealedHead,
    events: z.array(
      z.object({
        event: z.number(),
        entry: z.string(),
        position: z.number(),
        path: z.array(z.int()).meta({ description: 'Places in hashes' })
      })
    ),
    hashes: z.array(hexHash)
  })
  .meta({ id: 'ProofOfMany' });

const named = {
  product: z.string(),
  kind: z.enum(['lot', 'serial', 'bulk']),
  number: z.string().nullable()
};
const amount = { ...named, quantity: z.string() };

export const Feed = z
  .object({
    events: z.array(
      z.object({
        id: z.number(),
        kind: z.string(),
        document: z.string(),
        reference: z.string().nullable(),
        partner: z.string().nullable(),
        order: z.object({ kind: z.string(), number: z.string() }).nullable(),
        at: z.string(),
        bookedAt: z.string(),
        bookedBy: z.string(),
        reason: z.string().nullable(),
        reverses: z.number().nullable(),
        movements: z.array(z.object({ ...amount, place: z.string() })),
        transformations: z.array(
          z.object({ inputs: z.array(z.object(amount)), outputs: z.array(z.object(amount)) })
        ),
        fittings: z.array(
          z.object({
            ...amount,
            host: z.object(named),
            position: z.string().nullable(),
            out: z.boolean()
          })
        ),
        changes: z.array(
          z.object({
            ...named,
            field: z.string(),
            from: z.string().nullable(),
            to: z.string().nullable()
          })
        )
      })
    ),
    next: z
      .string()
      .optional()
      .meta({ description: 'Goes on from here; absent where nothing came' })
  })
  .meta({ id: 'Feed' });
