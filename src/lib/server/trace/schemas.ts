import { z } from 'zod';
import { day, text, instant, record, code, markIds } from '../kernel/fields.ts';
import { MarkRecord } from '../ledger/schemas.ts';

export const FollowUpsQuery = z.object({
  made: z.union([day, z.literal('')]).optional(),
  expires: z.union([day, z.literal('')]).optional()
});

export const TraceQuery = z.object({
  product: text.min(1),
  lot: text.optional(),
  serial: text.optional(),
  direction: z.enum(['upstream', 'downstream']),
  until: z.union([day, instant]).optional().meta({ description: 'As it stood then' }),
  without: z
    .string()
    .max(2000)
    .optional()
    .meta({ description: 'Products not gone into, commas between' }),
  skip: z.string().max(200).optional().meta({ description: 'Kinds of event not gone through' }),
  from: z.string().max(100).optional().meta({
    description:
      'The event (its id) or document it starts at: what that brought in, or upstream the unit as it was then'
  }),
  clocks: z.enum(['obey', 'ignore']).optional().meta({
    description:
      'Ignored, whatever is tied together is reached, also what left before any of it came'
  })
});

const partnerEnd = z.object({
  event: z.number(),
  partner: z.string(),
  document: z.string(),
  at: z.string(),
  mark: z.number(),
  quantity: z.string()
});

const placeEnd = z.object({ mark: z.number(), place: z.string(), quantity: z.string() });

export const Trace = z
  .object({
    root: MarkRecord,
    roots: z.array(MarkRecord),
    direction: z.enum(['upstream', 'downstream']),
    marks: z.array(record.extend({ level: z.number(), content: z.string().optional() })),
    links: z.array(
      z.object({
        type: z.enum(['made', 'member', 'fitted', 'removed']),
        from: z.number(),
        to: z.number(),
        transformation: z.number().optional(),
        event: z.number()
      })
    ),
    events: z.array(
      z.object({
        id: z.number(),
        kind: z.string(),
        document: z.string(),
        partner: z.string().optional(),
        at: z.string(),
        lines: z.array(
          z.object({ mark: z.number(), place: z.string().nullable(), quantity: z.string() })
        )
      })
    ),
    ends: z.object({
      customers: z.array(partnerEnd),
      onHand: z.array(placeEnd),
      scrapped: z.array(placeEnd.extend({ document: z.string(), at: z.string() })),
      suppliers: z.array(partnerEnd),
      origins: z.array(
        placeEnd.extend({
          event: z.number(),
          kind: z.string(),
          document: z.string(),
          at: z.string()
        })
      )
    }),
    balance: z.object({
      in: z.string(),
      onHand: z.string(),
      used: z.string(),
      shipped: z.string(),
      scrapped: z.string(),
      corrected: z.string(),
      open: z.string()
    }),
    balances: z.array(
      z.object({
        mark: z.number(),
        in: z.string(),
        onHand: z.string(),
        used: z.string(),
        shipped: z.string(),
        scrapped: z.string(),
        corrected: z.string(),
        open: z.string(),
        causes: z.array(z.string())
      })
    ),
    cleared: z.object({ marks: z.array(record), customers: z.array(partnerEnd) }),
    contentBy: z.enum(['happened', 'booked']).optional()
  })
  .meta({ id: 'Trace' });

const moment = z.union([day, instant]).optional();

export const TraceStart = z
  .discriminatedUnion('by', [
    z.strictObject({
      by: z.literal('numbers'),
      numbers: z.array(z.string().max(300)).min(1).max(100_001),
      product: code.optional()
    }),
    z.strictObject({ by: z.literal('document'), document: text.min(1) }),
    z.strictObject({ by: z.literal('partner'), partner: code, from: moment, to: moment }),
    z.strictObject({ by: z.literal('place'), place: code, from: moment, to: moment }),
    z.strictObject({
      by: z.literal('product'),
      product: code,
      first: z.string().max(60).optional(),
      last: z.string().max(60).optional(),
      madeFrom: moment,
      madeTo: moment
    })
  ])
  .meta({ id: 'TraceStart' });

export const CommonSourceQuestion = z
  .strictObject({
    units: markIds,
    population: z
      .union([z.enum(['product', 'shipped']), markIds])
      .default('product')
      .meta({
        description:
          'What they are compared with: all units of the same products, those of them that were shipped, or a list of ids'
      })
  })
  .meta({ id: 'CommonSourceQuestion' });
