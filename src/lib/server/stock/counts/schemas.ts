import { z } from 'zod';
import {
  bornWith,
  code,
  goingOn,
  mark,
  quantity,
  reason,
  rows,
  signature,
  text
} from '../../kernel/fields.ts';

export const NewCount = z
  .strictObject({
    document: text.min(1),
    places: rows(code).optional().meta({
      description: 'Where it counts; where only products or lots are named, all they lie at'
    }),
    products: rows(code).optional(),
    lots: rows(code).optional().meta({ description: 'Only these lots, and serials within them' }),
    blind: z
      .boolean()
      .optional()
      .meta({ description: 'Whoever counts is not shown what should be there' })
  })
  .meta({ id: 'NewCount' });

const entry = z.strictObject({
  product: text,
  place: text,
  ...mark,
  quantity: quantity
    .nullish()
    .meta({ description: '0 where it is not there; null takes an entry back' }),
  made: text.optional(),
  supplierNumber: text.optional(),
  ...bornWith
});

export const CountEntries = z
  .strictObject({
    lines: rows(entry).default([]),
    done: rows(code)
      .default([])
      .meta({ description: 'Places all of which is counted: what was not named is not there' })
  })
  .meta({ id: 'CountEntries' });

export const CountApproval = z
  .strictObject({
    reason,
    ...goingOn,
    signature,
    unitCosts: rows(z.strictObject({ product: text, ...mark, unitCost: quantity }))
      .optional()
      .meta({ description: 'What found goods cost, where their marks have no cost of their own' })
  })
  .meta({ id: 'CountApproval' });

const line = z.object({
  product: z.string(),
  place: z.string(),
  lot: z.string().optional(),
  serial: z.string().optional(),
  expected: z.string().optional(),
  counted: z.string().optional(),
  difference: z.string().optional()
});

export const Count = z
  .object({
    count: z.object({
      document: z.string(),
      state: z.enum(['open', 'approved', 'cancelled']),
      blind: z.boolean(),
      event: z.number().nullable(),
      places: z.array(z.object({ place: z.string(), done: z.boolean() })),
      total: z.number().meta({ description: 'Lines there are; the first 20 000 are listed' }),
      lines: z.array(line)
    })
  })
  .meta({ id: 'Count' });
