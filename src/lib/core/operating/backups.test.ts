import { describe, expect, it } from 'vitest';
import { isBackupDue, isCheckDue, isFullDue, NO_BACKUP } from './backups.ts';

/** By the machine's own clock: whatever zone the tests run in. */
const at = (day: number, hour: number): Date => new Date(2026, 10, day, hour);
const backedUp = (when: Date) => ({ ...NO_BACKUP, backedUpAt: when.toISOString() });
const checked = (when: Date) => ({ ...NO_BACKUP, checkedAt: when.toISOString() });

describe('backups that are taken by themselves', () => {
  it('begin at once, whatever the hour', () => {
    expect(isBackupDue(NO_BACKUP, at(30, 15))).toBe(true);
  });

  it('go on at night, once', () => {
    const evening = backedUp(at(29, 13));
    expect(isBackupDue(evening, at(29, 23))).toBe(false);
    expect(isBackupDue(evening, at(30, 2))).toBe(true);
    expect(isBackupDue(backedUp(at(30, 2)), at(30, 4))).toBe(false);
  });

  it('are made up for by day where the machine was off at night', () => {
    expect(isBackupDue(backedUp(at(28, 3)), at(30, 9))).toBe(true);
    expect(isBackupDue(backedUp(at(29, 8)), at(30, 9))).toBe(false);
  });

  it('are whole once a week, on the night it falls on', () => {
    expect(isFullDue(null, at(30, 2))).toBe(true);
    expect(isFullDue(at(23, 3), at(30, 2))).toBe(true);
    expect(isFullDue(at(24, 2), at(30, 2))).toBe(false);
  });

  it('are proved once a week, and again after one that did not hold', () => {
    expect(isCheckDue(NO_BACKUP, at(30, 2))).toBe(true);
    expect(isCheckDue(checked(at(23, 3)), at(30, 2))).toBe(true);
    expect(isCheckDue(checked(at(25, 2)), at(30, 2))).toBe(false);
    const broken = { ...checked(at(29, 2)), checkFault: 'It does not hold.' };
    expect(isCheckDue(broken, at(30, 2))).toBe(true);
  });
});
