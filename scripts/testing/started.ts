import { spawn, spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { anyFreePort } from '../machine.mjs';

const START = fileURLToPath(new URL('../start.mjs', import.meta.url));
const RUN = fileURLToPath(new URL('../run.mjs', import.meta.url));

/** An Earmark that serves. */
export interface Started {
  output: () => string;
  stop: () => Promise<number>;
  pid: number;
  url: string;
}
/** Starts Earmark by its command, and waits until it serves. */
export async function start(env: Record<string, string>, ...args: string[]): Promise<Started> {
  const port = env.PORT ?? String(await anyFreePort());
  let output = '';
  const { DATABASE_URL: _, ...clean } = process.env;
  const child = spawn(process.execPath, [START, ...args], {
    env: { ...clean, PORT: port, EARMARK_SEED: 'none', EARMARK_TEST_FAST: '1', ...env }
  });
  child.stdout.on('data', (chunk) => {
    output += chunk;
  });
  child.stderr.on('data', (chunk) => {
    output += chunk;
  });
  const ended = new Promise<number>((done) => child.on('exit', (code) => done(code ?? -1)));
  const url = `http://127.0.0.1:${port}`;
  for (let i = 0; i < 1800; i++) {
    if (
      await fetch(`${url}/api/health`).then(
        (reply) => reply.ok,
        () => false
      )
    )
      return {
        output: () => output,
        url,
        pid: child.pid!,
        stop: () => {
          child.kill('SIGTERM');
          return ended;
        }
      };
    if (child.exitCode !== null) break;
    await new Promise((go) => setTimeout(go, 100));
  }
  throw new Error(`It did not come up:\n${output}`);
}
/** Starts what must refuse to start, and gives what it says. */
export function refuses(env: Record<string, string>): string {
  const { DATABASE_URL: _, ...clean } = process.env;
  const result = spawnSync(process.execPath, [START], {
    env: { ...clean, EARMARK_SEED: 'none', ...env },
    encoding: 'utf8',
    timeout: 180_000
  });
  if (result.status !== 1) throw new Error(`It ended with ${result.status}, and should refuse.`);
  return (result.stdout + result.stderr).trim();
}

/** Runs another command of ours on a data folder, and gives what it says and its exit code. */
export function command(
  script: string,
  env: Record<string, string>,
  ...args: string[]
): { says: string; code: number | null } {
  const { DATABASE_URL: _, ...clean } = process.env;
  const { stdout, stderr, status } = spawnSync(process.execPath, [RUN, script, ...args], {
    env: { ...clean, ...env },
    encoding: 'utf8',
    timeout: 180_000
  });
  return { says: stdout + stderr, code: status };
}
