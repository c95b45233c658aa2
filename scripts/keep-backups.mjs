// Has backups taken by themselves while Earmark runs, once they are set up: each night, and one a
// week brought back and proved.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

const LOOK_EVERY_MS = 30 * 60_000;
/** Whoever starts Earmark waits for it, and not for a backup. */
const FIRST_LOOK_MS = 2 * 60_000;

/**
 * Looks now and then whether a backup is due (scripts/backup.ts knows), in a process of its own.
 * @param {string} data the data folder
 * @returns {() => void} ends it, and a backup that is being taken
 */
export function keepBackups(data) {
  const isSetUp = () =>
    Boolean(process.env.EARMARK_BACKUP) || existsSync(join(data, 'backup.json'));
  let child = null;
  const look = () => {
    if (child || !isSetUp()) return;
    child = spawn(process.execPath, ['scripts/run.mjs', 'scripts/backup.ts', '--due'], {
      stdio: 'inherit',
      env: { ...process.env, EARMARK_DATA: data }
    });
    child.on('exit', () => {
      child = null;
    });
  };
  const timer = setInterval(look, LOOK_EVERY_MS);
  const first = setTimeout(look, FIRST_LOOK_MS);
  return () => {
    clearTimeout(first);
    clearInterval(timer);
    child?.kill('SIGTERM');
  };
}
