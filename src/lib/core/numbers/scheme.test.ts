import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkCharacter } from './check-character.ts';
import {
  CLEAR_ALPHABET,
  gs1Misfit,
  makeNumber,
  makeParts,
  periodOf,
  schemeFaults,
  shiftOf,
  type Scheme
} from './scheme.ts';

// Sources as listed in the design's standards.md; values recomputed there.
describe('check characters', () => {
  it('MOD 37,36 (ISO 7064; example of the Global Release Identifier)', () =>
    expect(checkCharacter('A12425GABC1234002', 'mod37-36')).toBe('M'));
  it('MOD 11-2 (ISO 7064; example of ORCID)', () =>
    expect(checkCharacter('000000021825009', 'mod11-2')).toBe('7'));
  it('mod 10 (GS1 General Specifications)', () =>
    expect(checkCharacter('629104150021', 'mod10')).toBe('3'));
  it('pass over signs, and say when they cannot', () => {
    expect(checkCharacter('A12425-GABC-1234002', 'mod37-36')).toBe('M');
    expect(checkCharacter('TN-1', 'mod10')).toBeNull();
  });
  it('find every single wrong character (property of the systems)', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[0-9A-Z]{4,14}$/),
        fc.nat(),
        fc.constantFrom(...'0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ'),
        (text, at, other) => {
          const i = at % text.length;
          fc.pre(text[i] !== other);
          expect(checkCharacter(text.slice(0, i) + other + text.slice(i + 1), 'mod37-36')).not.toBe(
            checkCharacter(text, 'mod37-36')
          );
        }
      )
    );
  });
});

describe('numbering schemes', () => {
  const on = (day: string) => ({ site: 'QW', product: 'TN150', day, shift: 'A' });
  const scheme = (segments: Scheme['segments'], reset: Scheme['reset'] = 'never'): Scheme => ({
    segments,
    reset
  });
  const number = (of: Scheme, day: string, count: number) => {
    const made = makeNumber(of, on(day), count);
    return made.ok ? made.number : made.why;
  };

  it('put their parts together', () => {
    expect(
      number(
        scheme([
          { kind: 'text', text: 'TN-' },
          { kind: 'counter', width: 6, letters: false }
        ]),
        '2026-11-23',
        4418
      )
    ).toBe('TN-004418');
    expect(
      number(
        scheme([
          { kind: 'site' },
          { kind: 'product' },
          { kind: 'year', digits: 2 },
          { kind: 'day-of-year' },
          { kind: 'shift' },
          { kind: 'counter', width: 3, letters: false }
        ]),
        '2024-12-31',
        7
      )
    ).toBe('QWTN15024366A007');
    expect(
      number(
        scheme([
          { kind: 'date' },
          { kind: 'counter', width: 2, letters: false },
          { kind: 'check', method: 'mod10' }
        ]),
        '2026-03-02',
        5
      )
    ).toBe(`26030205${checkCharacter('26030205', 'mod10')}`);
  });

  // ISO 8601: 2021-01-22 is in week 3; 2021-01-03 is Sunday of 2020-W53.
  it('say each part of a number, which together are the number', () => {
    const scheme: Scheme = {
      segments: [
        { kind: 'text', text: 'TN-' },
        { kind: 'year', digits: 2 },
        { kind: 'counter', width: 4, letters: false },
        { kind: 'check', method: 'mod37-36' }
      ],
      reset: 'year'
    };
    const occasion = { site: 'S', product: 'P', day: '2026-11-25', shift: 'A' };
    const made = makeParts(scheme, occasion, 7);
    const number = makeNumber(scheme, occasion, 7);
    expect(made.ok && made.parts.slice(0, 3)).toEqual(['TN-', '26', '0007']);
    expect(made.ok && number.ok && made.parts.join('') === number.number).toBe(true);
    expect(makeParts(scheme, occasion, 10_000)).toMatchObject({ ok: false });
  });

  it('know ISO weeks, also at the turn of the year', () => {
    expect(
      number(
        scheme([{ kind: 'week' }, { kind: 'counter', width: 1, letters: false }]),
        '2021-01-22',
        1
      )
    ).toBe('031');
    expect(periodOf('week', '2021-01-03')).toBe('2020-W53');
    expect(
      ['never', 'year', 'month', 'day'].map((reset) =>
        periodOf(reset as Scheme['reset'], '2021-01-03')
      )
    ).toEqual(['', '2021', '2021-01', '2021-01-03']);
  });

  it('never make one number of two counts while the counter has room (property)', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.integer({ min: 1, max: 890 }),
        fc.integer({ min: 1, max: 890 }),
        (letters, a, b) => {
          const of = scheme([
            { kind: 'text', text: 'X' },
            { kind: 'counter', width: 3, letters }
          ]);
          expect(number(of, '2026-01-01', a) === number(of, '2026-01-01', b)).toBe(a === b);
        }
      )
    );
  });

  it('say when the counter is full, and use no lookalikes', () => {
    expect(
      number(scheme([{ kind: 'counter', width: 2, letters: false }]), '2026-01-01', 100)
    ).toContain('counter of 2 places is full');
    expect([...'0O1ILU'].some((letter) => CLEAR_ALPHABET.includes(letter))).toBe(false);
  });

  it('are refused where two periods could make the same number', () => {
    expect(schemeFaults(scheme([{ kind: 'text', text: 'A' }]))).toEqual([
      'It needs a counter, or two numbers of one day would be the same.'
    ]);
    expect(
      schemeFaults(scheme([{ kind: 'counter', width: 3, letters: false }], 'day'))
    ).toHaveLength(1);
    expect(
      schemeFaults(scheme([{ kind: 'date' }, { kind: 'counter', width: 3, letters: false }], 'day'))
    ).toEqual([]);
    expect(
      schemeFaults(
        scheme([
          { kind: 'check', method: 'mod10' },
          { kind: 'counter', width: 3, letters: false }
        ])
      )
    ).toEqual(['The check character must be the last part.']);
  });

  it('are warned about where a number would not fit a GS1 symbol', () => {
    expect(gs1Misfit('TN-004418')).toBeNull();
    expect(gs1Misfit('A'.repeat(21))).toContain('21 characters');
    expect(gs1Misfit('TN 4418')).toContain('set of 82');
    expect([5, 6, 13, 14, 22].map(shiftOf).join('')).toBe('CAABC');
  });
});
