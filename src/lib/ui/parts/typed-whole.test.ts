import { describe, expect, it } from 'vitest';
import { typedWhole } from './typed-whole.ts';

describe('a whole number as it was typed', () => {
  it('is a number, nothing, or what was typed', () => {
    expect(typedWhole(' 14 ')).toBe(14);
    expect(typedWhole('  ')).toBeNull();
    for (const typed of ['4h', '1.5', '-3', '1e3', '٣']) expect(typedWhole(typed)).toBe(typed);
  });
});
