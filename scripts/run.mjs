// Runs a TypeScript command of the project under tsx, with the database of `npm start` where none
// is named.
// Usage: node scripts/run.mjs scripts/reconcile.ts [arguments]
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const env = { ...process.env };
const urls = join(resolve(env.EARMARK_DATA ?? '.data'), 'running.json');
if (!env.DATABASE_URL && existsSync(urls))
  Object.assign(env, { DATABASE_URL: JSON.parse(readFileSync(urls, 'utf8')).ownerUrl });
const child = spawn(process.execPath, ['--import', 'tsx', ...process.argv.slice(2)], {
  stdio: 'inherit',
  env
});
// Whoever stops this means the command: it does not go on by itself.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
child.on('exit', (code) => process.exit(code ?? 1));
