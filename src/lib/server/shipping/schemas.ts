import { z } from 'zod';
import {
  circumstances,
  goingOn,
  rows,
  text,
  mark,
  quantity,
  reason,
  day,
  code
} from '../kernel/fields.ts';
import { CHOICE_RULES } from '../../core/shipping/propose.ts';

/** So much of a lot, or a serial. */
const goodsLine = z.strictObject({ product: text, ...mark, quantity: quantity.optional() });

export const Packing = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['pack', 'unpack']).default('pack'),
    ...goingOn,
    unit: z
      .string()
      .max(100)
      .optional()
      .meta({ description: 'SSCC of the carton or pallet; a new one is made where not given' }),
    make: z.enum(['carton', 'pallet']).optional(),
    lines: rows(goodsLine).default([]),
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
    lines: rows(goodsLine).min(1)
  })
  .meta({ id: 'Return' });

export const Exchange = GoodsReturn.extend({
  lines: rows(
    goodsLine.extend({
      replacement: z
        .strictObject({ product: text.optional(), serial: text.min(1) })
        .optional()
        .meta({
          description: 'The serial that goes out in its place; of the same product where none'
        })
    })
  )
    .min(1)
    .refine((lines) => lines.some((line) => line.replacement), {
      message: 'Say what goes out in place of what came back, or book a return.'
    })
}).meta({ id: 'Exchange' });

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
    ...goingOn,
    lines: rows(
      z.strictObject({ line: z.int().positive(), ...mark, quantity: quantity.optional() })
    )
  })
  .meta({ id: 'Promises' });

export const Shipment = z
  .strictObject({
    ...circumstances,
    customer: text,
    ...goingOn,
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
  .strictObject({ lines: rows(pickLine), until: day.nullish(), ...goingOn })
  .meta({ id: 'PickList' });

export const PickScan = z
  .strictObject({
    scan: z.string().trim().min(1).max(300),
    quantity: quantity.optional(),
    ...goingOn,
    place: code
      .optional()
      .meta({ description: 'Where the picker stands, where a lot lies in several places' })
  })
  .meta({ id: 'PickScan' });

export const PickBack = z.strictObject({ pick: z.int().min(1) }).meta({ id: 'PickBack' });

export const Swap = z.strictObject({ from: text, to: text, ...goingOn }).meta({ id: 'Swap' });
