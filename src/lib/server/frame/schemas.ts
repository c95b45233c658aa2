import { z } from 'zod';
import { MOST_LISTED } from '../../core/tables/shown-list.ts';

export const Probe = z.strictObject({
  celsius: z.string().regex(/^-?\d{1,3}(\.\d{1,2})?$/, 'Give degrees such as 4.5'),
  plugged: z.boolean()
});

const cell = z.string().max(5000);

/** A list as a screen shows it, to be printed or saved. */
export const ListAsked = z.strictObject({
  title: z.string().max(300),
  /** What the screen is called, and what it is narrowed to. */
  screen: z.string().max(400),
  columns: z.array(cell).min(1).max(MOST_LISTED.columns),
  rows: z.array(z.array(cell).max(MOST_LISTED.columns)).max(MOST_LISTED.rows),
  note: z.string().max(2000),
  format: z.enum(['pdf', 'csv', 'xlsx'])
});
