import { HOME_ZONE } from '../../../core/calendar/day.ts';
import type { Db } from '../../kernel/db/client.ts';

/** Whether an instant lies within days, both included, as the company's clock has them. */
export const withinDays = (
  db: Db,
  at: ReturnType<Db>,
  { from, to }: { from: string; to: string }
) => db`
  ${at} >= ${from}::date::timestamp AT TIME ZONE ${HOME_ZONE}
    AND ${at} < (${to}::date + 1)::timestamp AT TIME ZONE ${HOME_ZONE}
`;

/** A text as it is looked for: `%` and `_` mean themselves. */
export const pattern = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
