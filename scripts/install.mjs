// Installs the packages named in package-lock.json where they are missing or of another day. Not
// with `npm ci`: it insists on lock entries for other platforms' binaries, which npm leaves out
// where a registry does not serve them.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { Plain } from './machine.mjs';

export function installPackages() {
  const installed = 'node_modules/.package-lock.json';
  if (
    existsSync(installed) &&
    statSync(installed).mtimeMs >= statSync('package-lock.json').mtimeMs - 1000
  )
    return;
  console.log('Installing packages …');
  const { status } = spawnSync(
    'npm',
    ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'],
    { stdio: ['ignore', 'inherit', 'inherit'] }
  );
  if (status !== 0)
    throw new Plain(
      "The packages could not be installed from the npm registry. See npm's message above; then start again."
    );
}
