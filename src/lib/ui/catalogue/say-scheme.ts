import type { Period, Segment } from '../../core/numbers/scheme.ts';

/** What a part of a number is, in a word or three. */
export function saySegment(segment: Segment): string {
  switch (segment.kind) {
    case 'text':
      return 'text';
    case 'counter':
      return segment.letters ? 'counter, letters too' : 'counter';
    case 'year':
      return 'year';
    case 'week':
      return 'ISO week';
    case 'day-of-year':
      return 'day of year';
    case 'date':
      return 'yymmdd';
    case 'check':
      return 'check';
    default:
      return segment.kind;
  }
}

/** When the counter of a scheme begins anew, as it is chosen and said. */
export const RESETS: readonly (readonly [Period, string])[] = [
  ['never', 'never begins anew'],
  ['year', 'begins anew every year'],
  ['month', 'begins anew every month'],
  ['week', 'begins anew every ISO week'],
  ['day', 'begins anew every day']
];

export const sayReset = (reset: Period): string => RESETS.find(([period]) => period === reset)![1];
