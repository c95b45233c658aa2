import { describe, expect, it } from 'vitest';
import { readSnapshotText, sees } from './snapshot.ts';

// Source: PostgreSQL documentation, 9.26.7 Transaction ID and Snapshot Information:
// xmin:xmax:xip_list.
describe('a snapshot of the database', () => {
  it('sees what had ended, not what was running or had not begun', () => {
    const snapshot = readSnapshotText('10:20:10,14,15');
    expect(snapshot).toMatchObject({ xmin: 10n, xmax: 20n });
    expect(
      [9n, 10n, 11n, 14n, 15n, 19n, 20n, 4_000_000_000_000n].filter((xid) => sees(snapshot, xid))
    ).toEqual([9n, 11n, 19n]);
  });
  it('may have nothing running', () => {
    const snapshot = readSnapshotText('795:795:');
    expect(snapshot.running.size).toBe(0);
    expect(sees(snapshot, 794n)).toBe(true);
    expect(sees(snapshot, 795n)).toBe(false);
  });
});
