import { z } from 'zod';
import { ACTS, SIGNERS } from '../../core/people/signing.ts';
import { code, quantity, day, name, MOST_ROWS, whole } from '../kernel/fields.ts';
import { MOST_COUNT } from '../../core/numbers/scheme.ts';
import { LANGUAGES } from '../../core/papers/language.ts';
import { PER, FOLLOWS } from '../../core/catalogue/bill.ts';
import { LIMIT_KINDS } from '../../core/quality/spec.ts';
import {
  FACT_KINDS,
  CHECKPOINTS,
  ASKED,
  type Checkpoint,
  EXPIRY_RULES,
  MADE_RULES,
  RETEST_RULES,
  DESTINATIONS
} from '../../core/catalogue/plan.ts';
import { SITUATIONS, ANSWERS, type Situation } from '../../core/faults/situations.ts';

const billPart = z.strictObject({
  product: code,
  quantity,
  per: z.enum(PER).default('unit'),
  scrapPercent: quantity.default('0'),
  follow: z.enum(FOLLOWS),
  positions: z.array(z.string().trim().min(1).max(60)).max(100).default([]),
  alternates: z.array(code).max(20).default([]),
  revision: z.string().trim().min(1).max(60).nullable().default(null)
});

export const Bill = z
  .strictObject({
    validFrom: day
      .optional()
      .meta({ description: 'From when it is in force; today where not given' }),
    batch: quantity
      .nullable()
      .default(null)
      .meta({ description: 'How much one batch makes, for parts needed once a batch' }),
    addedCost: quantity.nullish().meta({
      description: 'What making one costs beside its parts; left out, it stays what it was'
    }),
    note: z.string().trim().max(2000).default(''),
    parts: z.array(billPart).max(20_000),
    coProducts: z
      .array(z.strictObject({ product: code, quantity, share: quantity }))
      .max(20)
      .default([])
  })
  .meta({ id: 'Bill' });

export const BillQuery = z.strictObject({
  version: z.coerce.number().int().positive().optional(),
  day: day.optional()
});

export const ExplosionQuery = z.strictObject({
  quantity: quantity.default('1'),
  day: day.optional()
});

const specLimit = z.strictObject({
  name: z.string().trim().max(100),
  kind: z.enum(LIMIT_KINDS),
  unit: z.string().trim().max(20).default(''),
  least: quantity.nullable().default(null),
  most: quantity.nullable().default(null),
  good: z.array(z.string().trim().max(100)).max(50).default([]),
  choices: z.array(z.string().trim().max(100)).max(50).default([]),
  required: z.boolean().default(true)
});

export const Spec = z
  .strictObject({
    limits: z.array(specLimit).max(200),
    holdOnFail: z.boolean().default(false),
    retestDays: whole(1, 36_500).nullable().default(null),
    sampling: z.string().trim().max(200).default('')
  })
  .meta({ id: 'Spec' });

export const SpecQuery = z.object({
  partner: code
    .optional()
    .meta({ description: 'Stricter limits of this customer; the product’s own where not given' })
});

export const CustomerWishes = z
  .strictObject({
    wishes: z
      .array(
        z.strictObject({
          product: code.nullable().default(null),
          leastDays: whole(1, 36_500).nullable().default(null),
          leastShare: quantity.nullable().default(null),
          oneLot: z.boolean().default(false),
          oneDate: z.boolean().default(false),
          tested: z.boolean().default(false)
        })
      )
      .max(1000)
  })
  .meta({ id: 'CustomerWishes' });

export const Route = z
  .strictObject({
    name,
    stations: z.array(z.strictObject({ code, name })).min(1).max(100),
    products: z.array(code).max(1000).default([])
  })
  .meta({ id: 'Route' });

export const Company = z
  .strictObject({
    name,
    gs1Prefix: z.string().regex(/^[0-9]{6,12}$/, 'A GS1 company prefix has 6 to 12 digits'),
    address: z.string().max(1000).default(''),
    currency: z
      .string()
      .regex(/^[A-Z]{3}$/, 'A currency has three capital letters, such as EUR (ISO 4217)')
      .nullish()
      .meta({ description: 'Currency costs are kept in; null where they are not kept' })
  })
  .meta({ id: 'Company' });

const measure = quantity.nullish();

export const Product = z
  .strictObject({
    name,
    unit: z.string().trim().min(1).max(20),
    decimals: whole(0, 6).default(0),
    made: z.boolean().default(false),
    marking: z
      .enum(['none', 'lot', 'serial', 'serial-in-lot'])
      .optional()
      .meta({ description: 'How it is marked; may be left out where a plan says it' }),
    plan: code.nullish().meta({
      description:
        'Code of the marking plan it is marked by; the plain one of its marking where none is named'
    }),
    shelfLifeDays: whole(1, 36_500).nullish(),
    warrantyMonths: whole(1, 1200).nullish(),
    netWeightKg: measure,
    grossWeightKg: measure,
    lengthCm: measure,
    widthCm: measure,
    heightCm: measure,
    gtin: z.string().trim().max(14).nullish(),
    overReceiptPercent: quantity
      .nullish()
      .meta({ description: 'How much more than ordered may come in, in per cent' }),
    units: z
      .array(
        z.strictObject({
          name: z.string().trim().min(1).max(20),
          holds: quantity,
          gtin: z.string().trim().max(14).nullish()
        })
      )
      .max(20)
      .optional()
      .meta({ description: 'Other units it is counted in; left as they are where not given' }),
    lotScheme: code.nullish().meta({
      description:
        'Code of the numbering scheme its lots are numbered by; that of its plan where not given'
    }),
    serialScheme: code.nullish(),
    components: z
      .array(z.strictObject({ product: code, quantity }))
      .max(500)
      .optional()
      .meta({ description: 'What one unit takes; left as it is where not given' })
  })
  .meta({ id: 'Product' });

const factAsked = z.strictObject({
  name: z.string().trim().min(1).max(100),
  kind: z.enum(FACT_KINDS),
  unit: z.string().trim().max(20).default(''),
  least: quantity.nullable().default(null),
  most: quantity.nullable().default(null),
  choices: z.array(z.string().trim().min(1).max(100)).max(50).default([]),
  required: z.boolean().default(false)
});

const days = whole(1, 36_500).nullable().default(null);

const answer = z.enum(ANSWERS);

export const MarkingPlan = z
  .strictObject({
    name,
    identity: z.enum(['none', 'lot', 'serial', 'serial-in-lot']),
    asks: z.strictObject(
      Object.fromEntries(CHECKPOINTS.map((checkpoint) => [checkpoint, z.enum(ASKED)])) as Record<
        Checkpoint,
        z.ZodEnum<{ always: 'always'; optionally: 'optionally'; never: 'never' }>
      >
    ),
    expires: z.enum(EXPIRY_RULES),
    shelfLifeDays: days,
    made: z.enum(MADE_RULES),
    retest: z.enum(RETEST_RULES),
    retestDays: days,
    warrantyMonths: whole(1, 1200).nullable().default(null),
    facts: z.array(factAsked).max(50),
    lotScheme: code.nullable().default(null),
    serialScheme: code.nullable().default(null),
    receivedTo: z.enum(DESTINATIONS).default('the place named'),
    returnedTo: z.enum(DESTINATIONS).default('the place named'),
    recalledTo: z.enum(DESTINATIONS).default('the place named'),
    foundTo: z.enum(DESTINATIONS).default('the place named'),
    answers: z
      .strictObject(
        Object.fromEntries(
          Object.keys(SITUATIONS).map((situation) => [situation, answer])
        ) as unknown as Record<Situation, typeof answer>
      )
      .extend({
        'out of order': answer.default('reason'),
        'life too short': answer.default('reason'),
        'not tested': answer.default('reason'),
        'lots mixed': answer.default('reason'),
        'dates mixed': answer.default('reason')
      }),
    signers: z
      .partialRecord(z.enum(ACTS), z.enum(SIGNERS))
      .optional()
      .meta({ description: 'Who signs which act; nobody where nothing is said' })
  })
  .meta({ id: 'MarkingPlan' });

export const Partner = z
  .strictObject({
    name,
    supplier: z.boolean().default(false),
    customer: z.boolean().default(false),
    gln: z.string().trim().max(13).nullish(),
    address: z.string().trim().max(1000).optional().meta({
      description: 'As it stands on a letter, a line each; stays as it is where it is not said'
    }),
    contact: z.string().trim().max(300).optional().meta({
      description: 'Who reads a letter: a name, a telephone, an e-mail address'
    }),
    language: z.enum(LANGUAGES).optional().meta({
      description: 'Their papers and letters are written in it; stays as it is where it is not said'
    }),
    warrantyMonths: whole(1, 1200).nullish().meta({
      description:
        'What their contract says of warranty, in place of the products’ own; stays where it is not said'
    })
  })
  .meta({ id: 'Partner' });

export const Place = z
  .strictObject({
    name,
    site: code.meta({ description: 'Code of the site; a new one is made' }),
    kind: z.enum(['dock', 'rack', 'bin', 'line', 'quarantine', 'dispatch']).optional()
  })
  .meta({ id: 'Place' });

const segment = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('text'), text: z.string().min(1).max(40) }),
  z.strictObject({ kind: z.literal('site') }),
  z.strictObject({ kind: z.literal('product') }),
  z.strictObject({ kind: z.literal('shift') }),
  z.strictObject({ kind: z.literal('year'), digits: z.union([z.literal(2), z.literal(4)]) }),
  z.strictObject({ kind: z.literal('week') }),
  z.strictObject({ kind: z.literal('day-of-year') }),
  z.strictObject({ kind: z.literal('date') }),
  z.strictObject({
    kind: z.literal('counter'),
    width: whole(1, 12),
    letters: z.boolean()
  }),
  z.strictObject({ kind: z.literal('check'), method: z.enum(['mod10', 'mod11-2', 'mod37-36']) })
]);

export const NumberingScheme = z
  .strictObject({
    name,
    segments: z.array(segment).min(1).max(20),
    reset: z.enum(['never', 'year', 'month', 'week', 'day']),
    next: whole(1, MOST_COUNT).optional().meta({
      description:
        'Count its next number has, where another system counted before; a counter only goes up'
    })
  })
  .meta({ id: 'NumberingScheme' });

export const NumbersWanted = z
  .strictObject({
    product: code,
    kind: z.enum(['lot', 'serial']),
    count: whole(1, MOST_ROWS),
    place: code.optional()
  })
  .meta({ id: 'NumbersWanted' });

export const NumberBlock = z.object({ numbers: z.array(z.string()) }).meta({ id: 'NumberBlock' });

export const IdentityQuery = z.object({ to: z.enum(['none', 'lot', 'serial', 'serial-in-lot']) });
