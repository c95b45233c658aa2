import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { asOwnerOf } from '../../scripts/on-database.ts';
import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { openSession } from '../../src/lib/server/people/open-session.ts';
import { measured, timed, type Measured } from '../measure.ts';
import { serve, type Served } from '../serve.ts';
import { ADDRESSES } from './addresses.ts';
import { pickSample } from './sample.ts';

/** The first answer of an address warms it and is thrown away. */
const TURNS = 5;
/** Longer is not waited for. */
const PATIENCE_MS = 60_000;
const GOOD: ReadonlySet<number> = new Set([200, 303]);
/** Below this a ratio says nothing but what else the machine did. */
const LEAST_MS = 10;

/** One address on one of the two: how long it takes at the median, and how much it answers. */
interface Answer {
  ms: number;
  bytes: number;
  status: number;
}

interface Row {
  address: string;
  demo: Answer;
  large: Answer;
}

/**
 * Every page and every GET of the API in the demo and in a large firm, served by the application as
 * it is built. Prints both times of each; the ratio is that of the slowest in the large one.
 */
export async function screens(): Promise<Measured> {
  const world = largeWorld();
  const token = randomBytes(18).toString('base64url');
  const demoServed = await serve({ token });
  const largeServed = await serve({ token, folder: world });
  try {
    const [inDemo, inLarge] = [await addressesOf(demoServed), await addressesOf(largeServed)];
    const rows: Row[] = [];
    for (const [at, address] of inLarge.list.entries()) {
      const demo = await ask(inDemo, inDemo.list[at]!);
      rows.push({ address, demo, large: await ask(inLarge, address) });
    }
    print(rows);
    const slowest = rows.reduce((a, b) => (b.large.ms > a.large.ms ? b : a));
    return measured('screens', rows.length, slowest.large.ms, slowest.demo.ms);
  } finally {
    await largeServed.stop();
    await demoServed.stop();
  }
}

/** The folder of the large world; made where it is not there yet. */
function largeWorld(): string {
  const folder = resolve(process.env.EARMARK_WORLD ?? '.world');
  if (existsSync(join(folder, 'world.json'))) return folder;
  const args = ['--import', 'tsx', 'scripts/world.ts', '--folder', folder];
  const made = spawnSync(process.execPath, args, { stdio: 'inherit' });
  if (made.status !== 0) throw new Error('The large world could not be made.');
  return folder;
}

interface Asked {
  origin: string;
  cookie: string;
  list: string[];
}

/** Addresses for what is in this database, asked by somebody with every right. */
function addressesOf({ port, folder }: Served): Promise<Asked> {
  return asOwnerOf(folder, async (sql) => {
    const sample = await pickSample(sql);
    const cookie = `earmark_session=${await sessionOf(sql)}`;
    const list = Object.values(ADDRESSES).flatMap((of) => (of === 'not asked' ? [] : of(sample)));
    await settled(sql, port);
    return { origin: `http://127.0.0.1:${port}`, cookie, list };
  });
}

async function sessionOf(sql: Sql): Promise<string> {
  const [all] = await sql<[{ id: number }]>`SELECT id FROM person WHERE login = 'system'`;
  const { secret } = await openSession(sql, {
    person: all.id,
    address: '127.0.0.1',
    agent: 'bench',
    factorShown: true
  });
  return secret;
}

/** Waits until what runs behind a start is done: every event sealed, the index in memory. */
async function settled(sql: Sql, port: number): Promise<void> {
  for (;;) {
    const [{ waiting }] = await sql<[{ waiting: boolean }]>`
      SELECT EXISTS (
        SELECT FROM event e WHERE NOT EXISTS (SELECT FROM seal_leaf l WHERE l.event_id = e.id)
      ) AS waiting
    `;
    const health = await fetch(`http://127.0.0.1:${port}/api/health`);
    const { index } = (await health.json()) as { index: string };
    if (!waiting && index !== 'starting') return;
    await new Promise((go) => setTimeout(go, 1000));
  }
}

async function ask({ origin, cookie }: Asked, address: string): Promise<Answer> {
  const times: number[] = [];
  let last = { bytes: 0, status: 0 };
  const once = async (): Promise<void> => {
    const reply = await fetch(origin + address, {
      headers: { cookie },
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE_MS)
    });
    last = { bytes: (await reply.arrayBuffer()).byteLength, status: reply.status };
  };
  for (let turn = 0; turn <= TURNS; turn++) {
    const ms = await timed(once).catch(() => PATIENCE_MS);
    if (turn > 0 || ms > PATIENCE_MS / 10) times.push(ms);
    // What takes so long takes it again.
    if (ms > PATIENCE_MS / 10) break;
  }
  const middle = times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  return { ...last, ms: middle };
}

/** The slowest first; then what did not answer as it should. */
function print(rows: Row[]): void {
  const kB = (bytes: number): string => `${Math.round(bytes / 1024)} kB`;
  for (const { address, demo, large } of rows.toSorted((a, b) => b.large.ms - a.large.ms))
    console.log(
      `${large.ms.toFixed(0).padStart(7)} ms  demo ${demo.ms.toFixed(0).padStart(5)} ms  ` +
        `${ratioOf(demo, large).padStart(7)}  ${kB(large.bytes).padStart(8)} (${kB(demo.bytes)})  ${address}`
    );
  for (const { address, demo, large } of rows)
    // A working screen without an order leads to the first that waits.
    if (!GOOD.has(large.status) || !GOOD.has(demo.status))
      console.log(`${address} answered ${demo.status} and ${large.status}`);
}

function ratioOf(demo: Answer, large: Answer): string {
  return (Math.max(large.ms, LEAST_MS) / Math.max(demo.ms, LEAST_MS)).toFixed(2);
}
