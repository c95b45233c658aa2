import { describe, expect, it } from 'vitest';
import { checkRoom, repositoryOf, weeksOf, writeSettings } from './repository.ts';

describe('where backups lie', () => {
  it('is the data folder, or a folder of its own that is named', () => {
    expect(repositoryOf({ EARMARK_DATA: '/srv/data' })).toEqual({
      data: '/srv/data',
      cluster: '/srv/data/postgres',
      folder: '/srv/data/backup',
      settings: '/srv/data/backup/pgbackrest.conf'
    });
    const apart = repositoryOf({ EARMARK_DATA: '/srv/data', EARMARK_BACKUP: '/mnt/kept' });
    expect(apart.folder).toBe('/mnt/kept');
  });

  it('is refused where a setting cannot say it', () => {
    const odd = repositoryOf({ EARMARK_DATA: '/srv/data', EARMARK_BACKUP: '/mnt/a "b"' });
    expect(() => writeSettings(odd, 5432, 4)).toThrow('EARMARK_BACKUP is "/mnt/a "b""');
    const deep = repositoryOf({
      EARMARK_DATA: `/srv/${'deep/'.repeat(30)}`,
      EARMARK_BACKUP: '/tmp/kept'
    });
    expect(() => writeSettings(deep, 5432, 4)).toThrow('Backups need a shorter path');
  });

  it('is kept for weeks that are a number of them', () => {
    expect(weeksOf({})).toBe(4);
    expect(weeksOf({ EARMARK_BACKUP_WEEKS: '12' })).toBe(12);
    for (const text of ['all', '0', '-1', '2.5', '1000'])
      expect(() => weeksOf({ EARMARK_BACKUP_WEEKS: text }), text).toThrow(
        `EARMARK_BACKUP_WEEKS is "${text}"`
      );
  });

  it('has to have room for a copy', () => {
    expect(() => checkRoom('/tmp', 2 ** 55)).toThrow(/has .* GiB left, and a copy .* takes/);
    expect(() => checkRoom('/tmp', 0)).not.toThrow();
  });
});
