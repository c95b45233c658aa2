import { z } from 'zod';
import {
  circumstances,
  reason,
  goingOn,
  rows,
  text,
  mark,
  MOST_ROWS,
  record
} from '../kernel/fields.ts';

export const Reversal = z
  .strictObject({
    ...circumstances,
    reason,
    ...goingOn,
    event: z.int().positive(),
    units: rows(z.strictObject({ product: text, ...mark }))
      .min(1)
      .optional()
      .meta({ description: 'Only what it did to these; all of it where not given' })
  })
  .meta({ id: 'Reversal' });

export const GlassSignature = z
  .strictObject({
    name: z.string().trim().min(1).max(200).meta({ description: 'Who signs' }),
    png: z.base64().max(400_000).meta({ description: 'What was drawn, as PNG, in base64' })
  })
  .meta({ id: 'GlassSignature' });

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

export const Verdict = z
  .object({
    faults: z.array(
      z.object({
        code: z.string(),
        path: z.string(),
        number: z.string().optional(),
        message: z.string(),
        event: z.number().optional().meta({ description: 'The event that stands in the way' })
      })
    ),
    notes: z.array(
      z.object({ path: z.string(), number: z.string().optional(), message: z.string() })
    ),
    /** Numbers of the sheet that stand on somebody else's draft too. */
    drafts: z.array(z.object({ number: z.string(), who: z.string() })).optional()
  })
  .meta({ id: 'Verdict' });
