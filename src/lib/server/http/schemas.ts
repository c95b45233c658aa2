import { z } from 'zod';
import { FOLLOWS, PER } from '../../core/catalogue/bill.ts';
import { CHOICE_RULES } from '../../core/shipping/propose.ts';
import { LIMIT_KINDS } from '../../core/quality/spec.ts';
import { LABEL_SIZES, LABEL_SYMBOLS, type LabelSize } from '../../core/labels/label.ts';
import {
  ANSWERS,
  ASKED,
  CHECKPOINTS,
  EXPIRY_RULES,
  FACT_KINDS,
  MADE_RULES,
  RETEST_RULES,
  SITUATIONS,
  type Checkpoint,
  type Situation
} from '../../core/catalogue/plan.ts';
import { OUTCOMES } from '../../core/recall/reconcile.ts';
import { READ_MODES } from '../../core/making/step.ts';
import { ROLES } from '../../core/people/rights.ts';

/** At most this many lines, marks or groups in one booking; a larger one is sent in parts. */
export const MOST_ROWS = 20_000;

/**
 * A quantity is a decimal string. A JSON number is taken too and read by its shortest decimal form.
 */
const quantity = z
  .union([z.string().max(100), z.number().transform(String)])
  .meta({ description: 'Decimal string such as "12" or "0.25"' });
// Lengths and characters of numbers are the core's to judge (number.malformed); this only bounds
// what is read at all.
const text = z.string().max(20_000);
const code = z.string().trim().min(1).max(60);
const instant = z.iso
  .datetime({ offset: true })
  .meta({ description: 'RFC 3339 instant, not in the future' });
const day = z.iso.date();
const name = z.string().trim().min(1).max(200);
const rows = <T extends z.ZodType>(schema: T) => z.array(schema).max(MOST_ROWS);

const circumstances = {
  document: text.min(1).meta({ description: 'Number of the order or paper this is booked under' }),
  at: instant.optional(),
  reference: z
    .string()
    .trim()
    .max(100)
    .optional()
    .meta({ description: "The other side's paper: a delivery note, a carrier's number" })
};
const reason = z.string().trim().min(1).max(2000);
const reasons = z.record(z.string().max(40), z.string().max(2000)).optional().meta({
  description:
    'Written reasons for going on where a plan asks for one, by fault code; one for all faults of a kind'
});
const mark = { lot: text.optional(), serial: text.optional() };
const facts = z.record(z.string().max(100), text).optional().meta({
  description: 'What the marking plan asks for beside the number, by the names of its facts'
});
const bornWith = { expires: text.optional(), retest: text.optional(), facts };
const receivedMark = z.strictObject({
  ...mark,
  quantity: quantity.optional(),
  made: text.optional(),
  ...bornWith,
  supplierNumber: text.optional()
});

export const Receipt = z
  .strictObject({
    ...circumstances,
    supplier: text,
    reasons,
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        quantity,
        unit: text.optional().meta({
          description:
            'Another unit of the product, such as pack; for the quantity of the line and of its marks'
        }),
        unitCost: quantity
          .optional()
          .meta({ description: 'Cost of one of the product’s own unit' }),
        marks: rows(receivedMark).optional()
      })
    ).min(1)
  })
  .meta({ id: 'Receipt' });

const buildLine = z.strictObject({
  product: text,
  quantity: quantity.optional(),
  ...mark,
  ...bornWith,
  place: text.optional(),
  draw: z
    .boolean()
    .optional()
    .meta({ description: 'For an input without a lot: taken first expired first' }),
  position: z
    .string()
    .trim()
    .max(60)
    .optional()
    .meta({ description: 'Where on the unit it sits, as its bill names it' })
});
export const Build = z
  .strictObject({
    ...circumstances,
    place: text,
    reasons,
    groups: rows(z.strictObject({ outputs: rows(buildLine).min(1), inputs: rows(buildLine) })).min(
      1
    ),
    shared: rows(buildLine).optional().meta({ description: 'What went into all groups together' })
  })
  .meta({ id: 'Build' });

const repackLine = {
  product: text,
  quantity: quantity.optional(),
  ...mark,
  place: text.optional(),
  unitCost: quantity
    .optional()
    .meta({ description: 'Cost of one unit; left out it is what is known, or shared by weight' })
};
export const Repack = z
  .strictObject({
    ...circumstances,
    place: text,
    reason: reason.optional(),
    reasons,
    groups: rows(
      z.strictObject({
        sources: rows(z.strictObject(repackLine)).min(1),
        results: rows(z.strictObject({ ...repackLine, expires: text.optional(), facts })).min(1)
      })
    ).min(1)
  })
  .meta({ id: 'Repack' });

export const Teardown = z
  .strictObject({
    ...circumstances,
    place: text,
    reason: reason.optional(),
    reasons,
    units: rows(
      z.strictObject({
        product: text,
        ...mark,
        quantity: quantity.optional(),
        parts: rows(
          z.strictObject({
            product: text,
            ...mark,
            quantity: quantity.optional(),
            place: text.optional(),
            lost: z.boolean().optional(),
            expires: text.optional(),
            facts
          })
        )
      })
    ).min(1)
  })
  .meta({ id: 'Teardown' });

export const Packing = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['pack', 'unpack']).default('pack'),
    reasons,
    unit: z
      .string()
      .max(100)
      .optional()
      .meta({ description: 'SSCC of the carton or pallet; a new one is made where not given' }),
    make: z.enum(['carton', 'pallet']).optional(),
    lines: rows(z.strictObject({ product: text, ...mark, quantity: quantity.optional() })).default(
      []
    ),
    units: z
      .array(z.string().max(100))
      .max(1000)
      .default([])
      .meta({ description: 'SSCCs of cartons, for a pallet' })
  })
  .meta({ id: 'Packing' });

export const GoodsReturn = z
  .strictObject({
    ...circumstances,
    customer: text.optional().meta({ description: 'Found by the sale where not given' }),
    place: text,
    reason: reason.optional(),
    lines: rows(z.strictObject({ product: text, ...mark, quantity: quantity.optional() })).min(1)
  })
  .meta({ id: 'Return' });

export const Reversal = z
  .strictObject({
    ...circumstances,
    reason,
    event: z.int().positive(),
    units: rows(z.strictObject({ product: text, ...mark }))
      .min(1)
      .optional()
      .meta({ description: 'Only what made these; all of it where not given' })
  })
  .meta({ id: 'Reversal' });

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

export const NamedOutputs = z
  .strictObject({
    product: code
      .optional()
      .meta({ description: 'Which product of the order; its first line where not given' }),
    lot: code.optional(),
    numbers: z
      .array(text)
      .max(MOST_ROWS)
      .optional()
      .meta({ description: 'Numbers typed or pasted' }),
    make: z
      .int()
      .min(1)
      .max(5000)
      .optional()
      .meta({ description: 'How many to make by the numbering scheme instead' })
  })
  .meta({ id: 'NamedOutputs' });
export const AsBuiltQuery = z.strictObject({ format: z.enum(['json', 'pdf']).default('json') });
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
    retestDays: z.int().min(1).max(36_500).nullable().default(null),
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
          leastDays: z.int().min(1).max(36_500).nullable().default(null),
          leastShare: quantity.nullable().default(null),
          oneLot: z.boolean().default(false),
          oneDate: z.boolean().default(false),
          tested: z.boolean().default(false)
        })
      )
      .max(1000)
  })
  .meta({ id: 'CustomerWishes' });
export const ProposalQuery = z.object({
  rule: z.enum(CHOICE_RULES).default('first expired'),
  day: day.optional(),
  named: z
    .string()
    .max(20_000)
    .optional()
    .meta({ description: 'Lots that must be taken, as line:number;line:number' })
});
export const Promises = z
  .strictObject({
    until: day.nullable().default(null),
    lines: rows(
      z.strictObject({ line: z.int().positive(), ...mark, quantity: quantity.optional() })
    )
  })
  .meta({ id: 'Promises' });
export const QualityTest = z
  .strictObject({
    product: text,
    ...mark,
    takenAt: instant.optional(),
    instrument: z.string().trim().max(200).default(''),
    sample: z.string().trim().max(200).default(''),
    note: z.string().trim().max(2000).default(''),
    results: z
      .array(
        z.strictObject({
          name: z.string().trim().min(1).max(100),
          value: z.union([z.string().max(200), z.number().transform(String)]),
          unit: z.string().trim().max(20).default('')
        })
      )
      .max(200)
  })
  .meta({ id: 'QualityTest' });
export const CertificateRequest = z
  .strictObject({
    marks: z.array(z.int().positive()).min(1).max(1000).optional(),
    event: z.int().positive().optional().meta({ description: 'A shipment: everything in it' }),
    partner: code
      .nullish()
      .meta({ description: 'Whose limits count; the shipment’s customer where it is of one' })
  })
  .meta({ id: 'CertificateRequest' });
export const Route = z
  .strictObject({
    name,
    stations: z.array(z.strictObject({ code, name })).min(1).max(100),
    products: z.array(code).max(1000).default([])
  })
  .meta({ id: 'Route' });
export const StationRead = z
  .strictObject({
    station: code,
    mode: z.enum(READ_MODES).default('step'),
    reason: reason.optional(),
    tags: z
      .array(z.strictObject({ epc: z.string().max(100), memory: z.string().max(200).default('') }))
      .max(1000)
      .optional()
      .meta({
        description:
          'Tags as they were read, 24 hexadecimal digits each; the station’s own reader is asked where not given'
      })
  })
  .meta({ id: 'StationRead' });
export const TagReaderQuery = z.object({ station: code });
export const TagReaderChange = z.strictObject({
  station: code,
  plugged: z.boolean().optional(),
  place: z.string().trim().max(60).optional(),
  epc: z.string().trim().max(100).optional(),
  take: z.string().max(100).optional(),
  garble: z.string().max(100).optional()
});
export const BenchScan = z.strictObject({
  text: z.string().min(1).max(500),
  unit: text.nullable(),
  filled: z.record(z.string().max(200), text)
});
export const UnnamedOutputs = z.strictObject({ numbers: z.array(text).min(1).max(MOST_ROWS) });

export const Shipment = z
  .strictObject({
    ...circumstances,
    customer: text,
    reasons,
    lines: rows(
      z.strictObject({
        product: text,
        place: text.optional(),
        quantity: quantity.optional(),
        marks: rows(z.strictObject({ ...mark, quantity: quantity.optional() })).optional()
      })
    ).default([]),
    units: z
      .array(z.string().max(100))
      .max(2000)
      .optional()
      .meta({ description: 'SSCCs of cartons and pallets that leave with all that is in them' })
  })
  .refine((request) => request.lines.length > 0 || (request.units?.length ?? 0) > 0, {
    path: ['lines'],
    message: 'Name goods in lines, or cartons and pallets in units'
  })
  .meta({ id: 'Shipment' });

const pickLine = z.strictObject({ line: z.int().min(1), ...mark, quantity: quantity.optional() });
export const PickList = z
  .strictObject({ lines: rows(pickLine), until: day.nullish() })
  .meta({ id: 'PickList' });
export const PickScan = z
  .strictObject({
    scan: z.string().trim().min(1).max(300),
    quantity: quantity.optional(),
    place: code
      .optional()
      .meta({ description: 'Where the picker stands, where a lot lies in several places' })
  })
  .meta({ id: 'PickScan' });
export const PickBack = z.strictObject({ pick: z.int().min(1) }).meta({ id: 'PickBack' });
export const Swap = z.strictObject({ from: text, to: text }).meta({ id: 'Swap' });
export const Company = z
  .strictObject({
    name,
    gs1Prefix: z.string().regex(/^[0-9]{6,12}$/, 'A GS1 company prefix has 6 to 12 digits'),
    address: z.string().max(1000).default('')
  })
  .meta({ id: 'Company' });

export const Correction = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['gain', 'loss', 'scrap']),
    reason,
    lines: rows(
      z.strictObject({ product: text, place: text, ...mark, quantity: quantity.optional() })
    ).min(1)
  })
  .meta({ id: 'Correction' });

export const Move = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['put away', 'move']),
    lines: rows(
      z.strictObject({
        product: text,
        from: text,
        to: text,
        ...mark,
        quantity: quantity.optional()
      })
    ).min(1)
  })
  .meta({ id: 'Move' });

export const Identification = z
  .strictObject({
    ...circumstances,
    reasons,
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        lot: text.optional(),
        marks: rows(receivedMark).min(1)
      })
    ).min(1)
  })
  .meta({ id: 'Identification' });

const amended = text.nullable().optional();
export const Amendment = z
  .strictObject({
    ...circumstances,
    reason,
    lines: rows(
      z.strictObject({
        product: text,
        ...mark,
        to: z.strictObject({
          number: text.optional(),
          made: amended,
          expires: amended,
          retest: amended,
          supplierNumber: amended,
          facts: z.record(z.string().max(100), text.nullable()).optional()
        })
      })
    ).min(1)
  })
  .meta({ id: 'Amendment' });

export const QualityDecision = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['hold', 'release', 'reject']),
    reason,
    marks: rows(z.strictObject({ product: text, ...mark })).min(1)
  })
  .meta({ id: 'QualityDecision' });

const measure = quantity.nullish();
export const Product = z
  .strictObject({
    name,
    unit: z.string().trim().min(1).max(20),
    decimals: z.int().min(0).max(6).default(0),
    made: z.boolean().default(false),
    marking: z
      .enum(['none', 'lot', 'serial', 'serial-in-lot'])
      .optional()
      .meta({ description: 'How it is marked; may be left out where a plan says it' }),
    plan: code.nullish().meta({
      description:
        'Code of the marking plan it is marked by; the plain one of its marking where none is named'
    }),
    shelfLifeDays: z.int().min(1).max(36_500).nullish(),
    warrantyMonths: z.int().min(1).max(1200).nullish(),
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
const days = z.int().min(1).max(36_500).nullable().default(null);
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
    warrantyMonths: z.int().min(1).max(1200).nullable().default(null),
    facts: z.array(factAsked).max(50),
    lotScheme: code.nullable().default(null),
    serialScheme: code.nullable().default(null),
    answers: z.strictObject(
      Object.fromEntries(
        Object.keys(SITUATIONS).map((situation) => [situation, z.enum(ANSWERS)])
      ) as Record<Situation, z.ZodEnum<{ stop: 'stop'; reason: 'reason'; note: 'note' }>>
    )
  })
  .meta({ id: 'MarkingPlan' });

export const Partner = z
  .strictObject({
    name,
    supplier: z.boolean().default(false),
    customer: z.boolean().default(false),
    gln: z.string().trim().max(13).nullish()
  })
  .meta({ id: 'Partner' });

export const Place = z
  .strictObject({
    name,
    site: code.meta({ description: 'Code of the site; a new one is made' }),
    kind: z.enum(['dock', 'rack', 'bin', 'line', 'quarantine', 'dispatch']).optional()
  })
  .meta({ id: 'Place' });

const announcedMark = z.strictObject({
  lot: code.optional(),
  serial: code.optional(),
  quantity: quantity.optional(),
  expires: day.optional(),
  supplierNumber: z.string().trim().max(100).optional()
});
export const ORDER_KINDS = ['purchase', 'work', 'sales'] as const;
export const Order = z
  .strictObject({
    partner: code.nullish(),
    place: code.nullish(),
    placed: day.optional(),
    due: day,
    note: z.string().trim().max(2000).default(''),
    billVersion: z.int().positive().nullish().meta({
      description:
        'For a work order: the version of the bill it keeps; the one in force where not given'
    }),
    lines: z
      .array(
        z.strictObject({
          product: code,
          quantity,
          unit: z
            .string()
            .trim()
            .min(1)
            .max(20)
            .nullish()
            .meta({ description: 'Another unit of the product that the quantity is in' }),
          overPercent: quantity.nullish().meta({
            description:
              'How much more may come in on this line, in per cent; that of the product where not given'
          }),
          announced: rows(announcedMark)
            .optional()
            .meta({ description: 'Numbers the supplier announced ahead' })
        })
      )
      .min(1)
      .max(5000)
  })
  .meta({ id: 'Order' });
export const Announcement = z
  .strictObject({
    lines: z
      .array(z.strictObject({ line: z.int().min(1), marks: rows(announcedMark) }))
      .min(1)
      .max(5000)
  })
  .meta({ id: 'Announcement' });
export const OrderChange = z
  .strictObject({
    closed: z.boolean().optional(),
    serialsLater: z.boolean().optional().meta({
      description: 'For a sales order: its serials are named later; a loose end until they are'
    })
  })
  .meta({ id: 'OrderChange' });

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
    width: z.int().min(1).max(12),
    letters: z.boolean()
  }),
  z.strictObject({ kind: z.literal('check'), method: z.enum(['mod10', 'mod11-2', 'mod37-36']) })
]);
export const NumberingScheme = z
  .strictObject({
    name,
    segments: z.array(segment).min(1).max(20),
    reset: z.enum(['never', 'year', 'month', 'week', 'day'])
  })
  .meta({ id: 'NumberingScheme' });
export const NumbersWanted = z
  .strictObject({
    product: code,
    kind: z.enum(['lot', 'serial']),
    count: z.int().min(1).max(MOST_ROWS),
    place: code.optional()
  })
  .meta({ id: 'NumbersWanted' });
export const NumberBlock = z.object({ numbers: z.array(z.string()) }).meta({ id: 'NumberBlock' });

export const LabelRequest = z
  .strictObject({
    marks: z
      .array(z.int().min(1))
      .min(1)
      .max(MOST_ROWS)
      .meta({ description: 'Ids of the lots and serials' }),
    symbol: z.enum(LABEL_SYMBOLS).default('datamatrix'),
    size: z.enum(Object.keys(LABEL_SIZES) as [LabelSize, ...LabelSize[]]).default('50x25'),
    copies: z.int().min(1).max(100).default(1),
    target: z.enum(['pdf', 'printer']).default('pdf')
  })
  .meta({ id: 'LabelRequest' });

export const Probe = z.strictObject({
  celsius: z.string().regex(/^-?\d{1,3}(\.\d{1,2})?$/, 'Give degrees such as 4.5'),
  plugged: z.boolean()
});

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
export const Draft = z
  .strictObject({
    body: z.json(),
    numbers: z
      .array(z.string().max(200))
      .max(MOST_ROWS)
      .optional()
      .meta({ description: 'The numbers that stand on it, as PRODUCT kind NUMBER in capitals' })
  })
  .meta({ id: 'Draft' });
export const SignIn = z
  .strictObject({ login: z.string().max(200), password: z.string().max(1000) })
  .meta({ id: 'SignIn' });

const limit = z.coerce.number().int().min(1).max(1000).default(100);
const cursor = z.string().max(100).optional();
export const MarksQuery = z.object({
  product: text.optional(),
  lot: text.optional(),
  serial: text.optional(),
  q: text.optional(),
  cursor,
  limit
});
export const StockQuery = z.object({
  product: text.optional(),
  place: text.optional(),
  cursor,
  limit
});
export const ImportQuery = z.object({
  mode: z.enum(['check', 'write', 'write-good']).default('check')
});
export const ExportQuery = z.object({
  format: z.enum(['csv', 'xlsx']).default('csv'),
  product: code.optional(),
  from: day.optional(),
  to: day.optional(),
  number: code.optional()
});
export const FollowUpsQuery = z.object({
  made: z.union([day, z.literal('')]).optional(),
  expires: z.union([day, z.literal('')]).optional()
});
export const IdentityQuery = z.object({ to: z.enum(['none', 'lot', 'serial', 'serial-in-lot']) });
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
  skip: z.string().max(200).optional().meta({ description: 'Kinds of event not gone through' })
});

const record = z.object({
  id: z.number(),
  product: z.string(),
  kind: z.enum(['lot', 'serial', 'bulk']),
  number: z.string().nullable(),
  lot: z.string().optional(),
  supplierNumber: z.string().optional(),
  made: day.optional(),
  expires: day.optional(),
  retest: day.optional(),
  facts: z
    .record(z.string(), z.object({ value: z.string(), unit: z.string().optional() }))
    .optional(),
  state: z.enum(['usable', 'held', 'rejected']),
  onHand: z.string()
});
export const MarkRecord = record.meta({ id: 'MarkRecord' });
export const Booked = z
  .object({
    event: z.object({
      id: z.number(),
      kind: z.string(),
      document: z.string(),
      bookedAt: z.string()
    }),
    marks: z.array(MarkRecord),
    units: z
      .array(z.string())
      .optional()
      .meta({ description: 'SSCCs of the cartons and pallets it made' })
  })
  .meta({ id: 'Booked' });
export const MarkPage = z
  .object({ marks: z.array(MarkRecord), next: z.string().optional() })
  .meta({ id: 'MarkPage' });
export const StockPage = z
  .object({
    rows: z.array(z.object({ mark: MarkRecord, place: z.string(), quantity: z.string() })),
    next: z.string().optional()
  })
  .meta({ id: 'StockPage' });
const partnerEnd = z.object({
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
        type: z.enum(['made', 'member', 'fitted']),
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
      suppliers: z.array(partnerEnd)
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
    )
  })
  .meta({ id: 'Trace' });
export const ProblemDocument = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number(),
    detail: z.string().optional(),
    errors: z.array(
      z.object({
        code: z.string(),
        path: z.string(),
        number: z.string().optional(),
        message: z.string(),
        answer: z.literal('reason').optional().meta({
          description: 'Set where the booking may go on with a written reason in `reasons`'
        })
      })
    )
  })
  .meta({ id: 'Problem' });
export const Verdict = z
  .object({
    faults: z.array(
      z.object({
        code: z.string(),
        path: z.string(),
        number: z.string().optional(),
        message: z.string()
      })
    ),
    notes: z.array(
      z.object({ path: z.string(), number: z.string().optional(), message: z.string() })
    ),
    /** Numbers of the sheet that stand on somebody else's draft too. */
    drafts: z.array(z.object({ number: z.string(), who: z.string() })).optional()
  })
  .meta({ id: 'Verdict' });

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

const markIds = z
  .array(z.int().min(1))
  .min(1)
  .max(100_000)
  .meta({ description: 'Ids of lots and serials' });
export const NewRecall = z
  .strictObject({
    title: name,
    hazard: z.string().trim().min(1).max(4000),
    request: z.string().trim().max(4000).default(''),
    mock: z.boolean().default(false),
    targetMinutes: z.int().min(1).max(10_000).nullish(),
    marks: markIds,
    why: z.string().trim().max(1000).default('')
  })
  .meta({ id: 'NewRecall' });
export const RecallSuspects = z.strictObject({
  marks: markIds,
  why: z.string().trim().max(1000).default('')
});
export const RecallNotices = z.strictObject({ partners: z.array(code).max(5000).optional() });
export const RecallAnswers = z.strictObject({
  answers: z
    .array(
      z.strictObject({
        partner: code,
        mark: z.int().min(1),
        outcome: z.enum(OUTCOMES),
        quantity,
        note: z.string().trim().max(2000).default('')
      })
    )
    .min(1)
    .max(20_000)
});
export const RecallSignature = z.strictObject({ password: z.string().max(1000) });
export const RecallClosing = z.strictObject({ reason: z.string().trim().max(2000).optional() });
export const RecallRelated = z.strictObject({ other: code });
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
const several = z
  .string()
  .max(20_000)
  .optional()
  .meta({ description: 'One, or several with | between' });
export const EpcisEventsQuery = z.object({
  MATCH_anyEPC: several,
  MATCH_anyEPCClass: several,
  EQ_bizStep: several,
  eventType: several,
  EQ_action: several,
  GE_eventTime: instant.optional(),
  LT_eventTime: instant.optional(),
  EQ_readPoint: several,
  EQ_bizLocation: several,
  perPage: z.coerce.number().int().min(1).max(1000).default(30),
  nextPageToken: z.string().max(300).optional()
});
