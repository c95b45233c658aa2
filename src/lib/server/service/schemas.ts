import { z } from 'zod';
import { JOB_STATES } from '../../core/service/job-state.ts';
import { code, day, reason, rows, signature, text, whole } from '../kernel/fields.ts';
import { Fitting } from '../making/schemas.ts';

const words = (most: number) => z.string().trim().max(most);

export const NewServiceJob = z
  .strictObject({
    unit: z.strictObject({ product: code, serial: text.min(1), lot: text.optional() }),
    customer: code.meta({ description: 'Who brings it: another than bought it is normal' }),
    place: code.optional().meta({
      description: 'Where it lies now; left out where it is still to come'
    }),
    fault: z.string().trim().min(1).max(2000).meta({ description: 'In the customer’s words' }),
    faultCode: code.nullish().meta({ description: 'From the list of faults' }),
    condition: words(2000).default(''),
    accessories: words(2000).default('').meta({ description: 'What came with it' }),
    contact: z
      .strictObject({
        name: words(200).default(''),
        email: z.union([z.literal(''), z.email().max(200)]).default(''),
        phone: words(60).default('')
      })
      .optional(),
    promised: day.nullish().meta({ description: 'The day the customer was promised it for' }),
    charged: z.boolean().nullish().meta({ description: 'Whether the customer pays' }),
    underWarranty: z.boolean().nullish().meta({
      description: 'What is decided; left out, it is under warranty where ours still runs'
    })
  })
  .meta({ id: 'NewServiceJob' });

export const ServiceTurn = z
  .strictObject({
    state: z.enum(JOB_STATES).optional(),
    note: words(2000).default(''),
    underWarranty: z.boolean().nullish(),
    charged: z.boolean().nullish(),
    promised: day.nullish()
  })
  .meta({ id: 'ServiceTurn' });

export const ServiceArrival = z
  .strictObject({ place: code, lot: text.optional() })
  .meta({ id: 'ServiceArrival' });

export const ServiceNote = z
  .strictObject({
    kind: z.enum(['finding', 'act']),
    note: z.string().trim().min(1).max(2000),
    minutes: whole(0, 100_000).nullish()
  })
  .meta({ id: 'ServiceNote' });

export const ServiceReturn = z
  .strictObject({
    reference: words(100).optional().meta({ description: 'The carrier’s number, or their paper' }),
    customer: code.optional().meta({
      description: 'Who it goes to; whoever brought it where left out'
    }),
    exchange: z
      .strictObject({ product: code, serial: text.min(1) })
      .optional()
      .meta({ description: 'Another unit that goes out in its place' }),
    signature
  })
  .meta({ id: 'ServiceReturn' });

export const ServiceStock = z
  .strictObject({
    reason: reason.meta({ description: 'Why it stays: bought back, exchanged, given up' }),
    serial: text.min(1).optional().meta({
      description: 'The number it has from now on; the old one still finds it'
    }),
    signature
  })
  .meta({ id: 'ServiceStock' });

export const JobFitting = Fitting.partial({ document: true }).meta({
  id: 'JobFitting',
  description: 'As a fitting; the job’s number stands in the place of a document'
});

export const NewClaimPart = z
  .strictObject({
    product: code,
    serial: text.min(1),
    supplier: code,
    reason,
    goodwill: z
      .boolean()
      .default(false)
      .meta({ description: 'Claimed although the supplier’s warranty is over' })
  })
  .meta({ id: 'NewClaimPart' });

const ClaimAnswer = z
  .strictObject({
    reference: words(100).optional().meta({ description: 'The supplier’s own number' }),
    parts: rows(
      z.strictObject({
        product: code,
        serial: text.min(1),
        outcome: z.enum(['credited', 'replaced', 'refused']),
        replacedBy: text.optional().meta({ description: 'The serial that came in its place' }),
        note: words(2000).default('')
      })
    ).min(1)
  })
  .meta({ id: 'ClaimAnswer' });
export type ClaimAnswers = z.infer<typeof ClaimAnswer>;

export const ClaimChange = z
  .strictObject({
    sent: z.literal(true).optional().meta({ description: 'It was sent to the supplier' }),
    reference: words(100).optional().meta({ description: 'The supplier’s own number' }),
    parts: ClaimAnswer.shape.parts.optional().meta({ description: 'What the supplier answered' })
  })
  .meta({ id: 'ClaimChange' });

export const ClaimsQuery = z.strictObject({ q: words(100).default('') });

export const FiguresQuery = z.strictObject({
  product: code.optional(),
  from: day.optional().meta({ description: 'Jobs taken in from this day' }),
  to: day.optional()
});

export const ServiceUnitQuery = z.strictObject({
  serial: text.min(1),
  product: code.optional()
});

export const ServiceFault = z
  .strictObject({ name: z.string().trim().min(1).max(200) })
  .meta({ id: 'ServiceFault' });

export const ServiceSettings = z
  .strictObject({
    tracking: z.boolean(),
    unitPages: z.boolean(),
    shows: z.array(z.enum(['made', 'warranty', 'recall'])).max(3),
    howToSend: words(2000),
    tells: z.array(z.enum(JOB_STATES)).max(9)
  })
  .meta({ id: 'ServiceSettings' });

export const ServiceJobAnswer = z
  .object({
    job: z.object({
      number: z.string(),
      tracking: z.string(),
      state: z.enum(JOB_STATES),
      warranty: z.object({
        ours: z.string().meta({ description: '“until 2028-03-12”, “over” or “none”' }),
        supplier: z.string().optional()
      })
    })
  })
  .meta({ id: 'ServiceJobAnswer' });
