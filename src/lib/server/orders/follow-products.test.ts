import { describe, expect, it } from 'vitest';
import { lineNow } from './follow-products.ts';

describe('the line a product stands on after its order was entered again', () => {
  it('is the same where it may stay, else the first that has it, else none', () => {
    const products = [7, 8, 7];
    expect(lineNow(products, 7, 3)).toBe(3);
    expect(lineNow(products, 8, 1)).toBe(2);
    expect(lineNow(products, 7, 2)).toBe(1);
    expect(lineNow(products, 9, 1)).toBeNull();
  });
});
