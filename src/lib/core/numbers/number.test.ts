import { describe, expect, it } from 'vitest';
import { numberKey, readNumber, shown } from './number.ts';

describe('numbers', () => {
  it('are trimmed, and compared without regard to capitals', () => {
    expect(readNumber('  Pd-88401 ')).toEqual({ ok: true, number: 'Pd-88401' });
    expect(numberKey('tn-1')).toBe(numberKey(' TN-1 '));
  });

  it('are refused in words when they could not be printed and scanned', () => {
    expect(readNumber(' ')).toEqual({ ok: false, why: 'it is empty' });
    expect(readNumber('A'.repeat(61))).toMatchObject({
      ok: false,
      why: expect.stringContaining('61 characters')
    });
    expect(readNumber('PD\u0000-1')).toMatchObject({
      ok: false,
      why: expect.stringContaining('control character (U+0000)')
    });
    expect(readNumber('PD\t1')).toMatchObject({ ok: false });
    expect(readNumber('Лот')).toMatchObject({ ok: false, why: expect.stringContaining('“Л”') });
  });

  it('are shortened and made harmless for messages', () => {
    expect(shown('x'.repeat(10_000))).toHaveLength(41);
    expect(shown('a\u001b[31m')).toBe('a·[31m');
  });
});
