import { z } from 'zod';
import { VALUED_BY } from './costs/read-value.ts';
import {
  circumstances,
  code,
  day,
  reason,
  rows,
  text,
  mark,
  quantity,
  goingOn,
  receivedMark,
  bornWith,
  MOST_ROWS,
  whole
} from '../kernel/fields.ts';
import { LABEL_SYMBOLS, LABEL_SIZES, type LabelSize } from '../../core/labels/label.ts';
import { LANDED_BY } from '../../core/ledger/request.ts';
import { MarkRecord } from '../ledger/schemas.ts';

export const Correction = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['gain', 'loss', 'scrap']),
    reason,
    ...goingOn,
    lines: rows(
      z.strictObject({
        product: text,
        place: text,
        ...mark,
        quantity: quantity.optional(),
        unitCost: quantity
          .optional()
          .meta({ description: 'Of a gain: cost of one of the product’s own unit' }),
        made: text.optional(),
        supplierNumber: text.optional(),
        ...bornWith
      })
    ).min(1)
  })
  .meta({ id: 'Correction' });

export const Revaluation = z
  .strictObject({
    ...circumstances,
    reason,
    receipt: z.int().positive().optional().meta({
      description: 'Id of the event the goods came in by, where its cost is corrected'
    }),
    lines: rows(z.strictObject({ product: text, ...mark, unitCost: quantity })).default([]),
    landed: z
      .strictObject({ amount: quantity, by: z.enum(LANDED_BY) })
      .optional()
      .meta({ description: 'Freight and the like, spread over all that came in by the receipt' })
  })
  .meta({ id: 'Revaluation' });

const valueAsked = {
  day: day.optional().meta({ description: 'As it stood at the end of this day; now if left out' }),
  product: code.optional(),
  place: code.optional(),
  number: code.optional().meta({ description: 'A lot with its serials, or a serial' })
};

export const ValueQuery = z.strictObject({
  ...valueAsked,
  format: z.enum(['json', 'csv', 'xlsx', 'pdf']).default('json'),
  by: z.enum(VALUED_BY).default('product').meta({ description: 'What the PDF adds up' })
});

export const ValueChangesQuery = z.strictObject({
  from: day,
  to: day,
  format: z.enum(['json', 'csv', 'xlsx', 'pdf']).default('json')
});

const sums = { amount: z.string(), unknown: z.int() };

export const Value = z
  .strictObject({
    rows: z.array(
      z.strictObject({
        product: z.string(),
        name: z.string(),
        unit: z.string(),
        mark: z.strictObject({
          id: z.int(),
          kind: z.enum(['lot', 'serial', 'bulk']),
          number: z.string().nullable(),
          lot: z.string().nullable()
        }),
        place: z.string(),
        quantity: z.string(),
        unitCost: z.string().nullable(),
        value: z.string().nullable()
      })
    ),
    count: z.int(),
    total: z.string(),
    unknown: z.int(),
    currency: z.string().nullable()
  })
  .meta({ id: 'Value' });

export const ValueChanges = z
  .strictObject({
    rows: z.array(
      z.object({ event: z.int(), kind: z.string(), amount: z.string().nullable() }).loose()
    ),
    count: z.int(),
    sums: z.array(z.strictObject({ kind: z.string(), ...sums })),
    currency: z.string().nullable()
  })
  .meta({ id: 'ValueChanges' });

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
    ).default([]),
    units: rows(z.strictObject({ sscc: text, to: text }))
      .optional()
      .meta({ description: 'Cartons and pallets, with all that is in them' })
  })
  .refine(({ lines, units }) => lines.length + (units?.length ?? 0) > 0, {
    message: 'Name at least one line or carton',
    path: ['lines']
  })
  .meta({ id: 'Move' });

export const Identification = z
  .strictObject({
    ...circumstances,
    ...goingOn,
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

export const LabelRequest = z
  .strictObject({
    marks: z
      .array(z.int().min(1))
      .min(1)
      .max(MOST_ROWS)
      .meta({ description: 'Ids of the lots and serials' }),
    symbol: z.enum(LABEL_SYMBOLS).default('datamatrix'),
    size: z.enum(Object.keys(LABEL_SIZES) as [LabelSize, ...LabelSize[]]).default('50x25'),
    copies: whole(1, 100).default(1),
    target: z.enum(['pdf', 'printer']).default('pdf')
  })
  .meta({ id: 'LabelRequest' });

const limit = z.coerce.number().int().min(1).max(1000).default(100);

/** Where a list goes on: what the page before gave as `next`. */
const cursorOf = (form: RegExp) =>
  z.string().regex(form, 'That is no cursor of ours: give the last answer’s next').optional();

export const MarksQuery = z.object({
  product: text.optional(),
  lot: text.optional(),
  serial: text.optional(),
  q: text.optional(),
  cursor: cursorOf(/^\d{1,15}$/),
  limit
});

export const StockQuery = z.object({
  product: text.optional(),
  place: text.optional(),
  cursor: cursorOf(/^\d{1,15}-\d{1,15}$/),
  limit
});

export const MarkPage = z
  .object({ marks: z.array(MarkRecord), next: z.string().optional() })
  .meta({ id: 'MarkPage' });

export const StockPage = z
  .object({
    rows: z.array(z.object({ mark: MarkRecord, place: z.string(), quantity: z.string() })),
    next: z.string().optional()
  })
  .meta({ id: 'StockPage' });

export const LyingQuestion = z
  .strictObject({
    numbers: rows(text).optional().meta({ description: 'Lots and serials, or codes of products' }),
    place: text.optional().meta({ description: 'All that lies there' })
  })
  .meta({ id: 'LyingQuestion' });
