import { existsSync } from 'node:fs';
import { storage } from '../testing/storage.ts';
import { describe, expect, it } from 'vitest';
import { tourSteps } from './tour-steps.ts';
import { Tour } from './tour.svelte.ts';

describe('how far somebody is on the tour', () => {
  it('goes from stop to stop, not past either end, and is left for good', () => {
    const kept = storage();
    const tour = new Tour();
    tour.start(kept, 'wilf', 7);
    tour.move(kept, -1, 3);
    expect(tour.progress).toEqual({ login: 'wilf', lot: 7, at: 0 });
    for (let n = 0; n < 5; n++) tour.move(kept, 1, 3);
    expect(tour.progress?.at).toBe(3);
    const after = new Tour();
    after.goOn(kept, 'wilf');
    expect(after.progress?.at).toBe(3);
    after.leave(kept);
    tour.goOn(kept, 'wilf');
    expect(tour.progress).toBeNull();
  });

  it('is nobody else’s, and what cannot be read is none', () => {
    const kept = storage();
    new Tour().start(kept, 'wilf', 7);
    const other = new Tour();
    other.goOn(kept, 'noor');
    expect(other.progress).toBeNull();
    kept.setItem('earmark tour', '{');
    other.goOn(kept, 'wilf');
    expect(other.progress).toBeNull();
  });
});

describe('the stops of the tour', () => {
  it('are screens there are, and short enough to read beside them', () => {
    for (const { path, says, tries } of tourSteps(7)) {
      const route = path
        .split('?')[0]!
        .replace(/\/(PO|WO|SO|SJ)-\d+$/, '/[number]')
        .replace(/\/\d+$/, '/[id]')
        .replace('/shipped', '/[kind]');
      expect(existsSync(`src/routes${route}/+page.svelte`), route).toBe(true);
      expect(says.length + tries.length).toBeLessThan(330);
    }
  });
});
