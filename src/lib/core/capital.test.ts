import { describe, expect, it } from 'vitest';
import { capital } from './capital.ts';

describe('the beginning of a sentence', () => {
  it('is a capital; the rest stands as it was', () => {
    expect(capital('gross weight, g')).toBe('Gross weight, g');
    expect(capital('SO-1 is open')).toBe('SO-1 is open');
    expect(capital('')).toBe('');
  });
});
