import { HOME_ZONE } from '../../../core/calendar/day.ts';
import type { Db } from './client.ts';

/** The instant a day is over by the company's clock. @param day `YYYY-MM-DD` */
export const dayIsOver = (db: Db, day: string): ReturnType<Db> =>
  db`(${day}::date + 1)::timestamp AT TIME ZONE ${HOME_ZONE}`;

/**
 * Whether an instant lies within days, both included, as the company's clock has them.
 * @param at a column of the statement
 */
export const withinDays = (
  db: Db,
  at: ReturnType<Db>,
  { from, to }: { from: string; to: string }
) => db`
  ${at} >= ${from}::date::timestamp AT TIME ZONE ${HOME_ZONE} AND ${at} < ${dayIsOver(db, to)}
`;
