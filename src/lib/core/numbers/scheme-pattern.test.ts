import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { Segment } from './scheme.ts';
import { readPattern, writePattern } from './scheme-pattern.ts';

const text = fc
  .string({ minLength: 1, maxLength: 5 })
  .filter((one) => !/[{}]/.test(one) && one.trim() === one);
const part: fc.Arbitrary<Segment> = fc.oneof(
  fc.constantFrom<Segment>(
    { kind: 'site' },
    { kind: 'product' },
    { kind: 'shift' },
    { kind: 'week' },
    { kind: 'day-of-year' },
    { kind: 'date' },
    { kind: 'year', digits: 2 },
    { kind: 'year', digits: 4 },
    { kind: 'check', method: 'mod37-36' }
  ),
  fc.record({
    kind: fc.constant('counter' as const),
    width: fc.integer({ min: 1, max: 12 }),
    letters: fc.boolean()
  })
);

describe('a numbering scheme as one line of text', () => {
  it('is read as it was written (property)', () => {
    const parts = fc.array(fc.tuple(text, part), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(parts, (list) => {
        const segments = list.flatMap(([said, of]): Segment[] => [
          { kind: 'text', text: said },
          of
        ]);
        expect(readPattern(writePattern(segments))).toEqual({ ok: true, segments });
      })
    );
  });

  it('names the part that is none, and lists those there are', () => {
    const reading = readPattern('RS-{yeer}');
    expect(reading).toMatchObject({ ok: false, why: expect.stringContaining('“{yeer}”') });
    expect(readPattern('RS-{count')).toMatchObject({ ok: false });
    expect(readPattern('  ')).toEqual({ ok: false, why: 'it is empty' });
  });
});
