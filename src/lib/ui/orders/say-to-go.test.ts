import { describe, expect, it } from 'vitest';
import { sayToGo } from './say-to-go.ts';

describe('what an order waits for', () => {
  it('is said in its unit, and in lines where the units differ', () => {
    expect(sayToGo({ left: '24', unit: 'each', openLines: 1 })).toBe('24 to go');
    expect(sayToGo({ left: '18.5', unit: 'kg', openLines: 1 })).toBe('18.5\u00a0kg to go');
    expect(sayToGo({ left: '42.5', unit: '', openLines: 2 })).toBe('2 lines to go');
    expect(sayToGo({ left: '1', unit: '', openLines: 1 })).toBe('1 line to go');
  });
});
