import { z } from 'zod';
import { code, day } from '../../kernel/fields.ts';

/** Columns a store keeper sorts by. */
export const SORTS = [
  'product',
  'number',
  'place',
  'quantity',
  'free',
  'expires',
  'since',
  'state'
] as const;

/** What rows are left out but these. */
export const ONLY = ['free', 'promised', 'held', 'expired', 'under way', 'empty'] as const;

/** What is asked of the desk: as it stands in the address, so that it can be sent to somebody. */
export const DeskQuery = z.strictObject({
  q: z.string().trim().max(100).optional(),
  product: code.optional(),
  place: code.optional(),
  site: code.optional(),
  only: z.enum(ONLY).optional(),
  sort: z.enum(SORTS).default('product'),
  down: z.literal('1').optional().meta({ description: 'The largest, latest or last first' }),
  day: day.optional().meta({ description: 'As it stood at the end of this day; now if left out' })
});
export type DeskAsked = z.infer<typeof DeskQuery>;

export const DeskFileQuery = DeskQuery.extend({
  format: z.enum(['json', 'csv', 'xlsx', 'pdf']).default('json')
});
