import { z } from 'zod';
import { shown } from '../../core/numbers/number.ts';

/** At most this many lines, marks or groups in one booking; a larger one is sent in parts. */
export const MOST_ROWS = 20_000;

/**
 * A quantity is a decimal string. A JSON number is taken too and read by its shortest decimal form.
 */
export const quantity = z
  .union([z.string().max(100), z.number().transform(String)])
  .meta({ description: 'Decimal string such as "12" or "0.25"' });

// Lengths and characters of numbers are the core's to judge (number.malformed); this only bounds
// what is read at all.
export const text = z.string().max(20_000);

export const code = z.string().trim().min(1).max(60);

/** A whole number within limits, both included; what is none is named, with what would be one. */
export const whole = (least: number, most: number) => {
  const error = ({ input }: { input?: unknown }) =>
    `“${shown(String(input))}” is no whole number from ${least} to ${most}`;
  return z.int({ error }).min(least, { error }).max(most, { error });
};

/** There is no year 0, and nothing here is older than a year of four digits. */
const fromYearOne = (text: string): boolean => !text.startsWith('0000');
const NO_YEAR = { error: 'There is no year 0000' };

export const instant = z.iso
  .datetime({ offset: true })
  .refine(fromYearOne, NO_YEAR)
  .meta({ description: 'RFC 3339 instant, not in the future' });

export const day = z.iso.date().refine(fromYearOne, NO_YEAR);

export const name = z.string().trim().min(1).max(200);

export const rows = <T extends z.ZodType>(schema: T) => z.array(schema).max(MOST_ROWS);

/** What POST /signatures gave. */
export const signature = z.string().max(300).optional().meta({
  description:
    'What POST /signatures gave, where the plan asks for a signature; of several acts in one, with a space between'
});

export const circumstances = {
  document: text.min(1).meta({ description: 'Number of the order or paper this is booked under' }),
  at: instant.optional(),
  reference: z
    .string()
    .trim()
    .max(100)
    .optional()
    .meta({ description: "The other side's paper: a delivery note, a carrier's number" }),
  signature
};

export const reason = z.string().trim().min(1).max(2000);

const reasons = z.record(z.string().max(40), z.string().max(2000)).optional().meta({
  description:
    'Written reasons for going on where a plan asks for one, by fault code; one for all faults of a kind'
});

/** What lets a booking go on in spite of faults its plan softens. */
export const goingOn = {
  reasons,
  approvals: z.array(z.string().max(100)).max(50).optional().meta({
    description: 'What POST /approvals gave: faults a second person let pass for this very document'
  })
};

export const mark = { lot: text.optional(), serial: text.optional() };

export const facts = z.record(z.string().max(100), text).optional().meta({
  description: 'What the marking plan asks for beside the number, by the names of its facts'
});

export const bornWith = { expires: text.optional(), retest: text.optional(), facts };

export const receivedMark = z.strictObject({
  ...mark,
  quantity: quantity.optional(),
  made: text.optional(),
  ...bornWith,
  supplierNumber: text.optional()
});

export const record = z.object({
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
  onHand: z.string(),
  unit: z.string().optional().meta({
    description: 'Of what is on hand; a trace says it of the product and not of each mark'
  })
});

export const markIds = z
  .array(z.int().min(1))
  .min(1)
  .max(100_000)
  .meta({ description: 'Ids of lots and serials' });
