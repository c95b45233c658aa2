// Builds the application where a source is newer than the build.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Plain } from './machine.mjs';

/** The last file of each of the two builds: the benchmarks make the second alone. */
const STAMPS = ['build/handler.js', 'build/threads/reader.js'];
const builtAt = (file) => (existsSync(file) ? statSync(file).mtimeMs : 0);

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return path.endsWith('.test.ts') ? 0 : stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))));
}

export function buildIfStale() {
  const sources = [
    'src',
    'static',
    'package-lock.json',
    'svelte.config.js',
    'vite.config.ts',
    'vite.threads.config.ts'
  ].filter(existsSync);
  if (Math.min(...STAMPS.map(builtAt)) > Math.max(...sources.map(newest))) return;
  console.log('Building …');
  // The pages first, which empties the folder; then the threads of the trace engine, each a file of
  // its own.
  for (const more of [[], ['--config', 'vite.threads.config.ts']]) {
    const { status, stdout, stderr } = spawnSync(
      'npx',
      ['vite', 'build', '--logLevel', 'warn', ...more],
      { encoding: 'utf8' }
    );
    if (status !== 0) throw new Plain(`The build failed:\n${stdout}\n${stderr}`);
  }
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) buildIfStale();
