import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { troublesOf } from '../../core/operating/troubles.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { readStanding } from './standing.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  vi.stubEnv('EARMARK_SEAL_KEY', 'somewhere');
  vi.stubEnv('EARMARK_DATA', '/tmp');
});
afterAll(async () => {
  vi.unstubAllEnvs();
  await world.end();
});

const codes = async (): Promise<string[]> =>
  troublesOf(await readStanding(world.sql)).map(({ code }) => code);

/** As if the last event had been booked so many minutes from now. */
const bookedIn = (minutes: number) =>
  world.owner.begin(async (tx) => {
    await tx`SET LOCAL session_replication_role = replica`;
    await tx`
      UPDATE event
      SET booked_at = now() + make_interval(mins => ${minutes}),
        happened_at = now() + make_interval(mins => ${minutes})
      WHERE id = (SELECT max(id) FROM event)
    `;
  });

describe('how the machine stands', () => {
  it('is told by the disk, the database and its clock', async () => {
    const standing = await readStanding(world.sql);
    expect(standing.disk!.free).toBeGreaterThan(0);
    expect(standing.disk!.free).toBeLessThan(standing.disk!.whole);
    // One machine, one clock.
    expect(Math.abs(standing.clockAheadMs)).toBeLessThan(2_000);
    expect(standing).toMatchObject({ sealWaitsMs: null, index: null, mailsGivenUp: 0 });
  });

  it('tells how backups stand, of a database of its own only', async () => {
    expect((await readStanding(world.sql)).backups).toBeNull();
    const data = mkdtempSync(join(tmpdir(), 'earmark-standing-'));
    vi.stubEnv('EARMARK_OWN_DATABASE', '1');
    vi.stubEnv('EARMARK_DATA', data);
    try {
      expect((await readStanding(world.sql)).backups).toMatchObject({ state: null });
      const state = { backedUpAt: '2026-11-20T02:00:00Z', checkFault: 'It lacks a row.' };
      writeFileSync(join(data, 'backup.json'), JSON.stringify(state));
      expect(await codes()).toContain('backup');
    } finally {
      vi.stubEnv('EARMARK_OWN_DATABASE', undefined);
      vi.stubEnv('EARMARK_DATA', '/tmp');
      rmSync(data, { recursive: true });
    }
  });

  it('says that nothing is sealed, and that the clock was set back', async () => {
    await world.receive('LOT', [{ lot: 'A' }], '1');
    expect(await codes()).not.toContain('seal');
    await bookedIn(-20);
    expect(await codes()).toContain('seal');
    await bookedIn(60);
    expect(await codes()).toContain('clock back');
  });
});
