import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, parseQuantity, quantity, totalOf } from './quantity.ts';

describe('quantities', () => {
  it('are read exactly and written shortest', () => {
    expect(formatQuantity(parseQuantity(' 0.250 ')!)).toBe('0.25');
    expect(formatQuantity(parseQuantity('118.50')!)).toBe('118.5');
    expect(formatQuantity(quantity('-0'))).toBe('0');
  });

  it('refuse what the ledger cannot keep', () => {
    for (const text of ['', 'abc', '1e3', '1,5', '0.1234567', '1234567890123', '--1', '٣'])
      expect(parseQuantity(text), text).toBeNull();
  });

  it('add up without the error of binary fractions', () => {
    expect(totalOf(Array.from({ length: 10 }, () => '0.1'))).toBe('1');
  });

  it('survive writing and reading (property)', () => {
    fc.assert(
      fc.property(fc.bigInt(-999999999999999999n, 999999999999999999n), (micro) => {
        const value = quantity(micro.toString()).div(1_000_000);
        expect(parseQuantity(formatQuantity(value))!.eq(value)).toBe(true);
      })
    );
  });
});
