import { z } from 'zod';
import {
  day,
  text,
  quantity,
  mark,
  bornWith,
  circumstances,
  goingOn,
  rows,
  reason,
  facts,
  code,
  MOST_ROWS,
  whole
} from '../kernel/fields.ts';
import { READ_MODES } from '../../core/making/step.ts';

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
    ...goingOn,
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
    ...goingOn,
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
    ...goingOn,
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

const part = {
  product: text,
  ...mark,
  quantity: quantity.optional(),
  position: z.string().trim().max(60).optional()
};

export const Fitting = z
  .strictObject({
    ...circumstances,
    place: text.meta({ description: 'Where parts are taken from first' }),
    reason,
    ...goingOn,
    units: rows(
      z.strictObject({
        product: text,
        ...mark,
        fit: rows(z.strictObject({ ...part, from: text.optional() })).optional(),
        remove: rows(
          z.strictObject({
            ...part,
            to: text,
            state: z.enum(['held', 'usable', 'scrap']).optional().meta({
              description: 'What becomes of it: usable where nothing is said'
            })
          })
        ).optional()
      })
    ).min(1)
  })
  .meta({ id: 'Fitting' });

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
    make: whole(1, 5000)
      .optional()
      .meta({ description: 'How many to make by the numbering scheme instead' })
  })
  .meta({ id: 'NamedOutputs' });

export const AsBuiltQuery = z.strictObject({
  format: z.enum(['json', 'pdf']).default('json'),
  as: z.enum(['built', 'is']).default('built').meta({
    description: 'As it was built, or what is in it now'
  }),
  day: day.optional().meta({ description: 'What was in it at the end of this day instead' })
});

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
