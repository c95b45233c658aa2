import { describe, expect, it } from 'vitest';
import { standing } from './other-tabs.svelte.ts';

describe('a sheet in two tabs of one person', () => {
  it('is open elsewhere until the last other tab is gone', () => {
    expect(standing(null, 'here', 1)).toBe('open');
    expect(standing('open', 'gone', 1)).toBe('open');
    expect(standing('open', 'gone', 0)).toBeNull();
  });

  it('stays changed, and booked, until it is shown anew', () => {
    expect(standing('open', 'kept', 1)).toBe('changed');
    expect(standing('changed', 'gone', 0)).toBe('changed');
    expect(standing('changed', 'booked', 1)).toBe('booked');
    expect(standing('booked', 'kept', 1)).toBe('booked');
  });
});
