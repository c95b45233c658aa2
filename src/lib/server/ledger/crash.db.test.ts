import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect, type Sql } from '../kernel/db/client.ts';
import { migrate, migrationsIn } from '../kernel/db/migrate.ts';
import { reconcile } from './reconcile.ts';
import { MIGRATIONS } from '../testing/template.ts';

// Law 4: a crash at any instant leaves a booking whole or absent. Here with SIGKILL, which nothing
// can catch: of the server, in the middle of many bookings, and of the database itself.
type Clusters = typeof import('../../../../scripts/cluster.mjs');
type Machine = typeof import('../../../../scripts/machine.mjs');
const script = (name: string) =>
  import(fileURLToPath(new URL(`../../../../scripts/${name}`, import.meta.url)));
const { startCluster } = (await script('cluster.mjs')) as Clusters;
const { anyFreePort } = (await script('machine.mjs')) as Machine;
const SERVER = fileURLToPath(new URL('../../../../scripts/start.mjs', import.meta.url));
const TOKEN = 'crash-test-token-0123456789';
const SERIALS = 40;

let folder: string,
  cluster: Awaited<ReturnType<Clusters['startCluster']>>,
  server: ChildProcess,
  port: number;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'earmark-crash-'));
  chmodSync(folder, 0o755);
  cluster = await startCluster({
    folder: join(folder, 'data'),
    port: await anyFreePort(),
    fast: false
  });
  const owner = connect(cluster.ownerUrl, { max: 1 });
  await migrate(owner, migrationsIn(MIGRATIONS));
  await owner.end();
  port = await anyFreePort();
  await startServer();
  await put('products/SER', {
    name: 'serial',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  });
  await put('products/OUT', {
    name: 'made',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'lot'
  });
  await put('places/DOCK', { name: 'dock', site: 'S' });
  await put('partners/SUP', { name: 'Supplier', supplier: true });
});
afterAll(() => {
  server?.kill('SIGKILL');
  try {
    cluster.stop();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

async function startServer(): Promise<void> {
  server = spawn(process.execPath, [SERVER], {
    stdio: 'ignore',
    env: {
      ...process.env,
      PORT: String(port),
      EARMARK_DATA: join(folder, 'served'),
      DATABASE_URL: cluster.ownerUrl,
      EARMARK_APP_URL: cluster.appUrl,
      EARMARK_SEED: 'none',
      EARMARK_TOKEN: TOKEN
    }
  });
  for (let i = 0; i < 1500; i++) {
    if (
      await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (reply) => reply.ok,
        () => false
      )
    )
      return;
    await new Promise((go) => setTimeout(go, 100));
  }
  throw new Error('The server did not come up.');
}

const call = (method: string, path: string, body: object, key = 'none') =>
  fetch(`http://127.0.0.1:${port}/api/v1/${path}`, {
    method,
    headers: {
      authorization: `Bearer ${TOKEN}`,
      'content-type': 'application/json',
      'idempotency-key': key
    },
    body: JSON.stringify(body)
  });
async function put(path: string, body: object): Promise<void> {
  const reply = await call('PUT', path, body);
  if (!reply.ok) throw new Error(await reply.text());
}

const receipt = (run: string, n: number) => ({
  document: `R-${run}-${n}`,
  supplier: 'SUP',
  lines: [
    {
      product: 'SER',
      place: 'DOCK',
      quantity: String(SERIALS),
      marks: Array.from({ length: SERIALS }, (_, i) => ({ serial: `${run}-${n}-${i}` }))
    }
  ]
});
const batch = (run: string, n: number) => ({
  document: `B-${run}-${n}`,
  place: 'DOCK',
  groups: [
    {
      outputs: [{ product: 'OUT', lot: `${run}-${n}`, quantity: '1' }],
      inputs: Array.from({ length: SERIALS }, (_, i) => ({
        product: 'SER',
        serial: `${run}-${n}-${i}`,
        quantity: '1'
      }))
    }
  ]
});

/**
 * Eight clients book receipts and builds until `kill` is called and answers stop coming; what was
 * answered as booked.
 */
async function bookUntil(run: string, kill: () => void): Promise<string[]> {
  const answered: string[] = [];
  let over = false;
  const client = async (first: number) => {
    for (let n = first; !over; n += 8) {
      for (const [path, body] of [
        ['receipts', receipt(run, n)],
        ['builds', batch(run, n)]
      ] as const) {
        const reply = await call('POST', path, body, body.document).catch(() => null);
        if (reply?.status === 201) answered.push(body.document);
        else if (reply === null || reply.status >= 500) return;
      }
    }
  };
  const clients = Array.from({ length: 8 }, (_, index) => client(index));
  while (answered.length < 12) await new Promise((go) => setTimeout(go, 5));
  await new Promise((go) => setTimeout(go, 30 + Math.random() * 60));
  kill();
  over = true;
  await Promise.all(clients);
  return answered;
}

async function checkWhole(run: string, answered: readonly string[]): Promise<void> {
  const sql: Sql = connect(cluster.ownerUrl, { max: 2 });
  try {
    expect((await reconcile(sql)).breaks).toEqual([]);
    const rows = await sql<
      { document: string; movements: number; marks: number; inputs: number; answers: number }[]
    >`
      SELECT e.document, (SELECT count(*) FROM movement v WHERE v.event_id = e.id) AS movements,
        (SELECT count(*) FROM mark m WHERE m.birth_event = e.id) AS marks,
        (
          SELECT count(*)
          FROM transformation t
            JOIN transformation_input i ON i.transformation_id = t.id
          WHERE t.event_id = e.id
        ) AS inputs,
        (SELECT count(*) FROM booking_key k WHERE k.event_id = e.id) AS answers
      FROM event e
      WHERE e.document LIKE ${`%-${run}-%`}
    `;
    // Whatever is there is there whole, and whatever was answered as booked is there.
    for (const row of rows)
      expect(row).toMatchObject(
        row.document.startsWith('R-')
          ? { movements: SERIALS, marks: SERIALS, inputs: 0, answers: 1 }
          : { movements: SERIALS + 1, marks: 1, inputs: SERIALS, answers: 1 }
      );
    const there = new Set(rows.map((row) => row.document));
    expect(answered.filter((document) => !there.has(document))).toEqual([]);
  } finally {
    await sql.end();
  }
}

describe('a crash leaves every booking whole or absent', () => {
  it('of the server, killed in the middle of bookings; sending again books what was lost, once', async () => {
    const answered = await bookUntil('SRV', () => server.kill('SIGKILL'));
    await checkWhole('SRV', answered);
    await startServer();
    const again = await call('POST', 'receipts', receipt('SRV', 0), 'R-SRV-0');
    expect(again.status).toBe(200);
  });

  it('of the database, killed in the middle of bookings; the server recovers by itself', async () => {
    const answered = await bookUntil('DB', () => process.kill(cluster.pid()!, 'SIGKILL'));
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(503);
    // its children notice that the postmaster is gone
    await new Promise((go) => setTimeout(go, 1500));
    cluster.restart();
    await checkWhole('DB', answered);
    for (
      let i = 0;
      i < 50 && (await fetch(`http://127.0.0.1:${port}/api/health`)).status !== 200;
      i++
    )
      await new Promise((go) => setTimeout(go, 200));
    const after = await call('POST', 'receipts', receipt('AFTER', 1), 'after');
    expect(after.status).toBe(201);
  });
});
