import { describe, expect, test } from 'vitest';
import { RIGHTS, ROLES } from './rights.ts';
import { SAY_RIGHT, sayRights } from './say-rights.ts';

describe('rights in words', () => {
  test('are said of every right, each in words of its own', () => {
    const words = RIGHTS.map((right) => SAY_RIGHT[right]);
    expect(words.every((text) => text.length > 2)).toBe(true);
    expect(new Set(words).size).toBe(words.length);
  });

  test('of a role are what it lets somebody do beyond reading', () => {
    expect(sayRights(['auditor'])).toEqual(['see costs', 'read the security log']);
    expect(sayRights(['receiver'])).toContain('receive');
    expect(sayRights(['receiver'])).not.toContain('ship');
    expect(sayRights([])).toEqual([]);
  });

  test('of several roles are said once', () => {
    const all = sayRights(ROLES);
    expect(new Set(all).size).toBe(all.length);
    expect(sayRights(['receiver', 'shipper'])).toEqual(
      expect.arrayContaining([...sayRights(['receiver']), ...sayRights(['shipper'])])
    );
  });
});
