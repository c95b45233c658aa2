import { describe, expect, it } from 'vitest';
import { short } from './short.ts';

describe('a text in a stone', () => {
  it('is whole where it has room, and cut where it has not', () => {
    expect(short('cold tank', 9)).toBe('cold tank');
    expect(short('cold tanks', 9)).toBe('cold tan…');
  });
  it('has room for fewer capitals and figures', () => {
    expect(short('AB12', 5)).toBe('AB12');
    expect(short('AB123', 5)).toBe('AB1…');
    expect(short('AB123', 5, 'even')).toBe('AB123');
  });
  it('never cuts a letter of two code units in half', () => {
    expect(short('😀😀😀', 2)).toBe('😀…');
  });
});
