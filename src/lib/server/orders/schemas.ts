import { z } from 'zod';
import { code, quantity, day, rows } from '../kernel/fields.ts';

const announcedMark = z.strictObject({
  lot: code.optional(),
  serial: code.optional(),
  quantity: quantity.optional(),
  expires: day.optional(),
  supplierNumber: z.string().trim().max(100).optional()
});

export const ORDER_KINDS = ['purchase', 'work', 'sales'] as const;
export type OrderKind = (typeof ORDER_KINDS)[number];

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
          unitPrice: quantity.nullish().meta({
            description:
              'Of a purchase order: the price of one, of the unit the quantity is in; left out, it stays what it was'
          }),
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
