import { quantile } from 'd3-array';
import { daysBetween, type Day } from '../calendar/day.ts';
import { groupBy } from '../group-by.ts';

/** Units of one day’s shipments. */
export interface Sold {
  day: Day;
  count: number;
}

/** A month since dispatch: how many units reached it, and how many of them failed in it. */
export interface FieldMonth {
  /** 0 is the first month after dispatch. */
  month: number;
  exposed: number;
  failed: number;
  /** Failures per thousand units that reached the month. */
  perThousand: number;
}

/** Completed months from one day to another: 0 until the same day of the next month. */
export function monthsSince(from: Day, to: Day): number {
  const [fromYear, fromMonth, fromDay] = from.split('-').map(Number) as [number, number, number];
  const [toYear, toMonth, toDay] = to.split('-').map(Number) as [number, number, number];
  return (toYear - fromYear) * 12 + (toMonth - fromMonth) - (toDay < fromDay ? 1 : 0);
}

/**
 * Failures in the field by month since dispatch: of the units that have been out so long, how many
 * came back in that month. A month only part of the units have reached counts those that have; what
 * was sold yesterday says nothing of the second year.
 * @param sold units by the day they left
 * @param ages completed months since dispatch of each failure
 */
export function fieldMonths(
  sold: readonly Sold[],
  ages: readonly number[],
  today: Day
): FieldMonth[] {
  const reached = sold.map(({ day, count }) => ({ months: monthsSince(day, today), count }));
  const last = Math.max(-1, ...reached.map((one) => one.months));
  return Array.from({ length: Math.min(last + 1, MOST_MONTHS) }, (_, month) => {
    const exposed = reached.reduce((sum, one) => sum + (one.months >= month ? one.count : 0), 0);
    const failed = ages.filter((age) => age === month).length;
    return { month, exposed, failed, perThousand: exposed === 0 ? 0 : (failed / exposed) * 1000 };
  });
}

/** Ten years are looked at. */
const MOST_MONTHS = 120;

/** A job as figures need it; days of the site. */
export interface ServedJob {
  unit: number;
  takenIn: Day;
  /** Null while it is here. */
  left: Day | null;
}

/** How long units were here. */
export interface Turnaround {
  jobs: number;
  /** Days, half of the jobs at most; and nine in ten at most. */
  median: number | null;
  most: number | null;
}

export function turnaroundOf(jobs: readonly ServedJob[]): Turnaround {
  const days = jobs.flatMap(({ takenIn, left }) =>
    left === null ? [] : [daysBetween(takenIn, left)]
  );
  const median = quantile(days, 0.5) ?? null;
  return { jobs: days.length, median, most: quantile(days, 0.9) ?? null };
}

/** A unit that is back so soon was not mended. */
export const REPEAT_WITHIN_DAYS = 90;

/** Jobs of units that had left another job at most ninety days before they came in. */
export function repeatsOf<Job extends ServedJob>(jobs: readonly Job[]): Job[] {
  const ofUnit = groupBy(jobs, (job) => job.unit);
  return jobs.filter((job) => ofUnit.get(job.unit)!.some((before) => isBackSoon(before, job)));
}

function isBackSoon(before: ServedJob, job: ServedJob): boolean {
  if (before === job || before.left === null) return false;
  const days = daysBetween(before.left, job.takenIn);
  return days >= 0 && days <= REPEAT_WITHIN_DAYS;
}
