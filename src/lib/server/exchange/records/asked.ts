import { z } from 'zod';
import { RIGHTS } from '../../../core/people/rights.ts';
import { day } from '../../kernel/fields.ts';

/** What is asked of the records: as it stands in the address. */
export const RecordsQuery = z.strictObject({
  from: day
    .optional()
    .meta({ description: 'The first day; thirty days before the last where left out' }),
  to: day.optional().meta({ description: 'The last day; today where left out' }),
  day: day.optional().meta({ description: 'Of who could do what: the day; today where left out' }),
  q: z
    .string()
    .trim()
    .max(100)
    .optional()
    .meta({ description: 'A partner, document, number or person' }),
  right: z
    .enum(RIGHTS)
    .optional()
    .meta({ description: 'Of who could do what: only who had this right' }),
  format: z.enum(['json', 'csv', 'xlsx']).default('json')
});

/** The same, with days. */
export interface RecordsAsked {
  /** Days `YYYY-MM-DD`, both included. */
  from: string;
  to: string;
  day: string;
  q: string | undefined;
  right: z.infer<typeof RecordsQuery>['right'];
}

/** Rows of a list, and how many there are; ids of events and marks beside what the columns say. */
export interface RecordsRead {
  rows: Record<string, string>[];
  total: number;
}
