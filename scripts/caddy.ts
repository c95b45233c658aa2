// Debian's Caddy, for the test of deploy/Caddyfile and for the cluster. Its package is taken apart and
// not installed: installed it would begin to serve.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';

const FOLDER = resolve('node_modules/.cache/caddy');

/** Where the program is; fetched where it is not on the machine. */
export function caddy(): string {
  const installed = '/usr/bin/caddy';
  if (existsSync(installed)) return installed;
  const own = join(FOLDER, 'usr/bin/caddy');
  if (existsSync(own)) return own;
  mkdirSync(FOLDER, { recursive: true });
  const run = (...command: string[]) => {
    const done = spawnSync(command[0]!, command.slice(1), { cwd: FOLDER, encoding: 'utf8' });
    if (done.status !== 0) throw new Error(`${command.join(' ')}: ${done.stderr ?? done.error}`);
  };
  run('apt-get', '-qq', 'download', 'caddy');
  run(
    'dpkg',
    '-x',
    readdirSync(FOLDER).find((name) => name.endsWith('.deb'))!,
    '.'
  );
  return own;
}
