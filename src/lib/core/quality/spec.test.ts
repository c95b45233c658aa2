import { describe, expect, it } from 'vitest';
import {
  judge,
  NO_SPEC,
  resultFault,
  sayLimit,
  specFaults,
  specFor,
  verdictOf,
  type Limit,
  type Spec
} from './spec.ts';

const limit = (name: string, more: Partial<Limit> = {}): Limit => ({
  name,
  kind: 'number',
  unit: 'N',
  least: null,
  most: null,
  good: [],
  choices: [],
  required: true,
  ...more
});
const spec = (...limits: Limit[]): Spec => ({ ...NO_SPEC, limits });
const result = (name: string, value: string, unit = 'N') => ({ name, value, unit });

describe('a limit', () => {
  const buoyancy = limit('buoyancy', { least: '150', most: '190' });
  it('includes its bounds, exactly', () => {
    expect(
      ['149.999', '150', '190', '190.001'].map(
        (value) => judge(buoyancy, result('buoyancy', value)).verdict
      )
    ).toEqual(['does not conform', 'conforms', 'conforms', 'does not conform']);
    expect(judge(buoyancy, result('buoyancy', '149.999')).why).toBe(
      'buoyancy 149.999 N is below 150'
    );
  });
  it('is of yes or no, of a choice, or of a text that is only reported', () => {
    const sealed = limit('sealed', { kind: 'yes/no', unit: '', good: ['yes'] }),
      leak = limit('leak', {
        kind: 'choice',
        unit: '',
        choices: ['tight', 'loose'],
        good: ['tight']
      });
    expect([
      judge(sealed, result('sealed', 'No', '')).verdict,
      judge(leak, result('leak', 'TIGHT', '')).verdict,
      judge(limit('colour', { kind: 'text', unit: '' }), result('colour', 'red', '')).verdict
    ]).toEqual(['does not conform', 'conforms', 'conforms']);
    expect([
      sayLimit(buoyancy),
      sayLimit(limit('x', { least: '1' })),
      sayLimit(limit('x', { most: '2' })),
      sayLimit(leak)
    ]).toEqual(['150 to 190 N', 'at least 1 N', 'at most 2 N', 'tight']);
  });
  it.each([
    ['a missing unit', result('buoyancy', '160', ''), 'has no unit. Say N'],
    ['a foreign unit', result('buoyancy', '160', 'kg'), 'is measured in N, and kg is given'],
    ['no number', result('buoyancy', 'high'), 'is no number'],
    ['nothing', result('buoyancy', ' '), 'has no result']
  ])('takes no result of %s', (_, given, says) =>
    expect(resultFault(buoyancy, given)).toContain(says)
  );
  it('takes no answer there is not', () => {
    expect(
      resultFault(
        limit('leak', { kind: 'choice', choices: ['tight', 'loose'], good: ['tight'] }),
        result('leak', 'maybe')
      )
    ).toContain('one of tight, loose');
    expect(
      resultFault(limit('sealed', { kind: 'yes/no', good: ['yes'] }), result('sealed', 'maybe'))
    ).toContain('yes or no');
  });
});

describe('a verdict', () => {
  const own = spec(
    limit('buoyancy', { least: '150' }),
    limit('leak', { kind: 'choice', unit: '', choices: ['tight', 'loose'], good: ['tight'] }),
    limit('mass', { unit: 'kg', most: '2', required: false })
  );
  it('is of what fails, then of what is missing and must be', () => {
    expect(verdictOf(own, [result('buoyancy', '160')]).verdict).toBe('untested');
    expect(verdictOf(own, [result('buoyancy', '160'), result('leak', 'tight', '')]).verdict).toBe(
      'conforms'
    );
    expect(verdictOf(own, [result('buoyancy', '140')]).verdict).toBe('does not conform');
    expect(verdictOf(null, [])).toEqual({ verdict: null, judged: [] });
  });
  it('goes by the latest result of each characteristic', () =>
    expect(
      verdictOf(own, [
        result('buoyancy', '140'),
        result('leak', 'tight', ''),
        result('Buoyancy', '155')
      ]).verdict
    ).toBe('conforms'));
  it('goes by the spec of now: one that changed its unit makes an old result say nothing', () => {
    const changed = spec(limit('buoyancy', { unit: 'kgf', least: '15' }));
    expect(verdictOf(changed, [result('buoyancy', '160', 'N')])).toMatchObject({
      verdict: 'untested',
      judged: [{ why: expect.stringContaining('says nothing by this spec') }]
    });
  });
  it('goes by a customer’s limits where they are stricter, and by the product’s for the rest', () => {
    const theirs = specFor(
      own,
      spec(limit('Buoyancy', { least: '165' }), limit('noise', { unit: 'dB', most: '60' }))
    );
    expect(theirs!.limits.map((one) => [one.name, one.least ?? one.most])).toEqual([
      ['Buoyancy', '165'],
      ['leak', null],
      ['mass', '2'],
      ['noise', '60']
    ]);
    expect(
      verdictOf(theirs, [result('buoyancy', '160'), result('leak', 'tight', '')]).verdict
    ).toBe('does not conform');
    expect([specFor(null, own), specFor(own, null)]).toEqual([own, own]);
  });
});

describe('a spec', () => {
  it('is refused where nothing could conform or everything would', () => {
    expect(
      specFaults(
        spec(
          limit(''),
          limit('a', { least: '1' }),
          limit('A', { least: '5', most: '4' }),
          limit('b'),
          limit('c', { least: 'x', unit: '' }),
          limit('d', { kind: 'choice', choices: ['x', 'y'], good: ['z'] }),
          limit('e', { kind: 'yes/no' })
        )
      )
    ).toEqual([
      expect.stringContaining('no name'),
      expect.stringContaining('stands twice'),
      expect.stringContaining('can never conform'),
      expect.stringContaining('b has no bound'),
      expect.stringContaining('“x” is no bound'),
      expect.stringContaining('c has no unit'),
      expect.stringContaining('d needs at least two answers'),
      expect.stringContaining('e must say whether')
    ]);
    expect(specFaults(spec(limit('a', { least: '1', most: '1' })))).toEqual([]);
  });
});
