import { z } from 'zod';
import {
  circumstances,
  code,
  day,
  mark,
  quantity,
  reason,
  rows,
  text
} from '../../kernel/fields.ts';

const moved = z.strictObject({ ...mark, quantity: quantity.optional() });

export const NewTransfer = z
  .strictObject({
    ...circumstances,
    from: code.meta({ description: 'Code of the site it leaves' }),
    to: code.meta({ description: 'Code of the site it goes to' }),
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        quantity: quantity.optional(),
        marks: rows(moved).optional()
      })
    ).default([]),
    units: rows(text)
      .optional()
      .meta({ description: 'SSCCs of cartons and pallets, with all that is in them' })
  })
  .meta({ id: 'NewTransfer' });

export const TransferOrder = z
  .strictObject({
    from: code.meta({ description: 'Code of the site it is to leave' }),
    to: code.meta({ description: 'Code of the site it is to go to' }),
    due: day.nullish().meta({ description: 'The day it is to have left' }),
    note: z.string().trim().max(2000).default(''),
    lines: z
      .array(z.strictObject({ product: code, quantity }))
      .min(1)
      .max(5000)
      .meta({ description: 'How much of what is to go, in the products’ own units' })
  })
  .meta({ id: 'TransferOrder' });

export const TransferChange = z
  .strictObject({
    closed: z.boolean().meta({ description: 'What has not left yet will not, or will after all' })
  })
  .meta({ id: 'TransferChange' });

export const Arrival = z
  .strictObject({
    at: circumstances.at,
    reference: circumstances.reference,
    place: text,
    lines: rows(
      z.strictObject({
        product: text,
        quantity: quantity.optional(),
        marks: rows(moved).optional()
      })
    ).default([]),
    units: rows(text).optional(),
    short: z
      .enum(['wait', 'lost'])
      .default('wait')
      .meta({ description: 'What becomes of what did not arrive: it waits, or is written off' }),
    reason: reason.optional()
  })
  .meta({ id: 'Arrival' });
