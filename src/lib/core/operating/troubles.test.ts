import { describe, expect, it } from 'vitest';
import type { BackupState } from './backups.ts';
import { troublesOf, type BackupStanding, type Standing } from './troubles.ts';

const GIB = 2 ** 30;
const DAY = 86_400_000;
const WELL: Standing = {
  disk: { free: 50 * GIB, whole: 100 * GIB },
  clockAheadMs: 12,
  bookedAheadMs: -400,
  sealWaitsMs: 8_000,
  index: { state: 'ready', reason: null },
  mailsGivenUp: 0,
  backups: {
    state: {
      backedUpAt: '2026-11-30T02:00:00Z',
      backupFault: null,
      checkedAt: '2026-11-25T02:00:00Z',
      checkFault: null
    },
    ledgerAgeMs: 400 * DAY,
    backedUpMsAgo: 0.4 * DAY,
    checkedMsAgo: 5 * DAY
  }
};
const backups = (
  change: Partial<BackupStanding>,
  state: Partial<BackupState> = {}
): Partial<Standing> => ({
  backups: { ...WELL.backups!, state: { ...WELL.backups!.state!, ...state }, ...change }
});
const neverBackedUp = { state: null, backedUpMsAgo: null, checkedMsAgo: null };
const codes = (change: Partial<Standing>) =>
  troublesOf({ ...WELL, ...change }).map(({ code }) => code);

describe('troubles of the machine', () => {
  it('are none where all is well, and where a part is not there at all', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ disk: null, index: null, sealWaitsMs: null, backups: null })).toEqual([]);
    expect(codes({ index: { state: 'starting', reason: null } })).toEqual([]);
    // Switched off by whoever runs it.
    expect(codes({ index: { state: 'off', reason: null } })).toEqual([]);
  });

  it('leaves a ledger of less than a week without a backup alone', () => {
    expect(codes(backups({ ...neverBackedUp, ledgerAgeMs: 3 * DAY }))).toEqual([]);
    expect(codes(backups({ ...neverBackedUp, ledgerAgeMs: null }))).toEqual([]);
  });

  it.each<[string, Partial<Standing>, string]>([
    ['little left by amount', { disk: { free: 1.9 * GIB, whole: 20 * GIB } }, 'disk'],
    ['little left by share', { disk: { free: 40 * GIB, whole: 1000 * GIB } }, 'disk'],
    ['a clock that runs ahead', { clockAheadMs: 5_001 }, 'clock'],
    ['a clock that is behind', { clockAheadMs: -7_200_000 }, 'clock'],
    ['a clock that jumped back an hour', { bookedAheadMs: 3_600_000 }, 'clock back'],
    ['nothing sealed for long', { sealWaitsMs: 11 * 60_000 }, 'seal'],
    ['an index that gave up', { index: { state: 'off', reason: 'too large' } }, 'index'],
    ['mail that nobody takes', { mailsGivenUp: 2 }, 'mail'],
    ['no backup of an old ledger', backups(neverBackedUp), 'backup'],
    ['a backup that failed', backups({}, { backupFault: 'No room.' }), 'backup'],
    [
      'a first backup that failed, however young the ledger',
      backups(
        { ledgerAgeMs: DAY, backedUpMsAgo: null, checkedMsAgo: null },
        { backedUpAt: null, backupFault: 'No room.', checkedAt: null }
      ),
      'backup'
    ],
    ['one that does not hold', backups({}, { checkFault: 'Lost a row.' }), 'backup'],
    ['one that is old', backups({ backedUpMsAgo: 3 * DAY }), 'backup'],
    ['none that was proved', backups({ checkedMsAgo: null }), 'backup']
  ])('%s', (_, change, code) => {
    expect(codes(change)).toEqual([code]);
    const [trouble] = troublesOf({ ...WELL, ...change });
    expect(trouble!.says.length).toBeGreaterThan(20);
    expect(trouble!.mend.length).toBeGreaterThan(20);
  });

  it('come the worst first', () => {
    const all = { disk: { free: 0, whole: GIB }, mailsGivenUp: 1, sealWaitsMs: 3_600_000 };
    expect(codes(all)).toEqual(['disk', 'seal', 'mail']);
  });
});
