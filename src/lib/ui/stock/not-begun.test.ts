import { describe, expect, it } from 'vitest';
import { notBegunAs } from './not-begun.ts';

describe('an act that cannot begin', () => {
  it('says why', () => {
    expect(notBegunAs('hold', 'held')).toBe('It is held already.');
    expect(notBegunAs('release', 'usable')).toContain('nothing to release');
    expect(notBegunAs('scrap', 'usable')).toContain('what can be done stands above');
  });
});
