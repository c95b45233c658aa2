import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import jstat from 'jstat';
import { daysLater } from '../calendar/day.ts';
import { fieldMonths, monthsSince, repeatsOf, turnaroundOf } from './field-figures.ts';

describe('months since dispatch', () => {
  it('are completed on the same day of a month', () => {
    expect(monthsSince('2026-01-15', '2026-02-14')).toBe(0);
    expect(monthsSince('2026-01-15', '2026-02-15')).toBe(1);
    expect(monthsSince('2024-12-31', '2026-12-30')).toBe(23);
    expect(monthsSince('2026-03-10', '2026-03-10')).toBe(0);
  });
});

describe('failures in the field', () => {
  // Worked by hand: 100 sold in January, 50 in March; today is 15 April.
  const sold = [
    { day: '2026-01-10', count: 100 },
    { day: '2026-03-20', count: 50 }
  ];

  it('are counted against those that have been out so long', () => {
    const months = fieldMonths(sold, [0, 0, 0, 2], '2026-04-15');
    expect(months).toEqual([
      { month: 0, exposed: 150, failed: 3, perThousand: 20 },
      { month: 1, exposed: 100, failed: 0, perThousand: 0 },
      { month: 2, exposed: 100, failed: 1, perThousand: 10 },
      { month: 3, exposed: 100, failed: 0, perThousand: 0 }
    ]);
  });

  it('come to all of them, whatever was sold when: an independent count agrees', () => {
    const unit = fc.record({ age: fc.nat(900), failedAfter: fc.option(fc.nat(900)) });
    fc.assert(
      fc.property(fc.array(unit, { minLength: 1, maxLength: 60 }), (units) => {
        const today = '2026-11-29';
        const fates = units.map(({ age, failedAfter }) => {
          const day = daysLater(today, -age);
          const fails = failedAfter !== null && failedAfter <= age;
          return { day, months: fails ? monthsSince(day, daysLater(day, failedAfter)) : null };
        });
        const sales = fates.map(({ day }) => ({ day, count: 1 }));
        const ages = fates.flatMap(({ months }) => (months === null ? [] : [months]));
        const found = fieldMonths(sales, ages, today);
        expect(found.reduce((sum, month) => sum + month.failed, 0)).toBe(ages.length);
        for (const { month, exposed, failed } of found) {
          expect(exposed).toBe(fates.filter(({ day }) => monthsSince(day, today) >= month).length);
          expect(failed).toBeLessThanOrEqual(exposed);
        }
      })
    );
  });
});

describe('how long units were here', () => {
  const stayed = (days: readonly number[]) =>
    days.map((n, unit) => ({ unit, takenIn: '2026-10-01', left: daysLater('2026-10-01', n) }));

  it('is half and nine in ten of those that left, as a statistics package says it', () => {
    const jobs = [...stayed([4, 0]), { unit: 9, takenIn: '2026-10-01', left: null }];
    expect(turnaroundOf(jobs)).toEqual({ jobs: 2, median: 2, most: 3.6 });
    expect(turnaroundOf([])).toEqual({ jobs: 0, median: null, most: null });
    fc.assert(
      fc.property(fc.array(fc.nat(400), { minLength: 2, maxLength: 80 }), (days) => {
        // jStat, alphap = betap = 1: definition 7 of Hyndman and Fan, 1996, which R has by default.
        const [half, most] = jstat.quantiles(days, [0.5, 0.9], 1, 1);
        const found = turnaroundOf(stayed(days));
        expect(found.median).toBeCloseTo(half!, 9);
        expect(found.most).toBeCloseTo(most!, 9);
      })
    );
  });

  it('a unit back within ninety days was not mended', () => {
    const job = (unit: number, takenIn: string, left: string | null) => ({ unit, takenIn, left });
    const jobs = [
      job(1, '2026-01-01', '2026-01-10'),
      job(1, '2026-04-10', '2026-04-12'),
      job(1, '2026-07-12', null),
      job(2, '2026-01-05', '2026-01-06')
    ];
    // 90 days after 10 January is 10 April; 91 after 12 April is 12 July.
    expect(repeatsOf(jobs)).toEqual([jobs[1]]);
  });
});
