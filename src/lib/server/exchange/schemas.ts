import { z } from 'zod';
import { code, day, instant } from '../kernel/fields.ts';

export const ImportQuery = z.object({
  mode: z.enum(['check', 'write', 'write-good']).default('check'),
  document: code.optional().meta({ description: 'Number opening stock is booked under' })
});

export const TemplateQuery = z.object({ format: z.enum(['csv', 'xlsx']).default('csv') });

export const ExportQuery = z.object({
  format: z.enum(['csv', 'xlsx']).default('csv'),
  product: code.optional(),
  from: day.optional(),
  to: day.optional(),
  number: code.optional()
});

const several = z
  .string()
  .max(20_000)
  .optional()
  .meta({ description: 'One, or several with | between' });

export const EpcisEventsQuery = z.object({
  MATCH_anyEPC: several,
  MATCH_anyEPCClass: several,
  EQ_bizStep: several,
  eventType: several,
  EQ_action: several,
  GE_eventTime: instant.optional(),
  LT_eventTime: instant.optional(),
  EQ_readPoint: several,
  EQ_bizLocation: several,
  perPage: z.coerce.number().int().min(1).max(1000).default(30),
  nextPageToken: z.string().max(300).optional()
});
