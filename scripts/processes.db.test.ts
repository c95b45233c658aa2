import { execFileSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { openSession } from '../src/lib/server/people/open-session.ts';
import { anyFreePort } from './machine.mjs';
import { asOwnerOf } from './on-database.ts';
import { DOCK, FLOUR, openingOf } from './testing/flour.ts';
import { start, type Started } from './testing/started.ts';
import { until } from './until.ts';

// Two processes on one port and one database, as an operator runs them: whichever is asked, the same
// is answered, and none that goes takes a booking with it.
const TOKEN = 'a-token-for-the-test-of-processes';
let folder: string;
let earmark: Started;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'earmark-processes-'));
  chmodSync(folder, 0o755);
  const env = {
    EARMARK_DATA: join(folder, 'data'),
    EARMARK_PG_PORT: String(await anyFreePort()),
    EARMARK_TOKEN: TOKEN
  };
  earmark = await start(env, '--processes', '2');
  expect((await call('PUT', 'products/FLOUR', FLOUR)).status).toBe(201);
  expect((await call('PUT', 'places/DOCK', DOCK)).status).toBe(201);
});
afterAll(async () => {
  await earmark?.stop();
  rmSync(folder, { recursive: true, force: true });
});

interface Reply {
  status: number;
  text: string;
}
/** Over connections that are kept, as of a scanner's browser, or each over one of its own. */
const kept = new Agent({ keepAlive: true });
function call(method: string, path: string, body?: object, agent: Agent = kept): Promise<Reply> {
  const headers = {
    authorization: `Bearer ${TOKEN}`,
    'content-type': 'application/json',
    'idempotency-key': JSON.stringify(body ?? null)
  };
  const address = path.startsWith('/') ? path : `/api/v1/${path}`;
  return new Promise((done, fail) => {
    const asked = request(`${earmark.url}${address}`, { method, headers, agent }, (reply) => {
      let text = '';
      reply.on('data', (part) => (text += part));
      reply.on('end', () => done({ status: reply.statusCode!, text }));
    });
    asked.on('error', fail);
    asked.end(body ? JSON.stringify(body) : undefined);
  });
}
/** Each over a connection of its own: they go to the processes in turn. */
const each = <T>(count: number, ask: (agent: Agent) => Promise<T>): Promise<T[]> =>
  Promise.all(Array.from({ length: count }, () => ask(new Agent())));

const opening = (lot: string) => openingOf(lot, lot, '1');
const asked = <T>(work: (sql: Sql) => Promise<T>): Promise<T> =>
  asOwnerOf(join(folder, 'data'), work);
const onHand = (): Promise<number> =>
  asked(async (sql) => {
    const [row] = await sql<[{ sum: number }]>`
      SELECT coalesce(sum(quantity), 0)::int AS sum FROM stock
    `;
    return row.sum;
  });

/** The processes that serve: children of the one that was started. */
const serving = (): number[] =>
  execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(earmark.pid)], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line.includes('worker.mjs'))
    .map((line) => Number(line.trim().split(' ')[0]));

/** Books one lot after the other by several at once, for as long as work goes on. */
async function bookDuring(name: string, work: () => Promise<void>): Promise<Reply[]> {
  let isOver = false;
  const replies: Reply[] = [];
  const clerk = async (of: number): Promise<void> => {
    for (let n = 0; !isOver; n++)
      replies.push(await call('POST', 'openings', opening(`${name}-${of}-${n}`)));
  };
  const clerks = [1, 2, 3, 4].map(clerk);
  await work();
  isOver = true;
  await Promise.all(clerks);
  return replies;
}

describe('npm start -- --processes 2', () => {
  it('shows the same by whichever is asked: devices, and figures of all', async () => {
    expect(serving()).toHaveLength(2);
    await call('PUT', 'devices/probe', { celsius: '7.25', plugged: true });
    const probes = await each(6, (agent) => call('GET', 'devices/probe', undefined, agent));
    expect(new Set(probes.map(({ text }) => text))).toEqual(new Set(['{"celsius":"7.25"}']));

    const before = await counted();
    await each(10, (agent) => call('GET', 'products', undefined, agent));
    expect((await counted()) - before).toBe(10);
  });

  it('tells all of them what is booked by any', async () => {
    const cookie = await signedIn();
    const listening = await each(4, (agent) => listen(agent, cookie));
    await call('POST', 'openings', opening('NEWS'));
    const heard = await Promise.all(listening.map(({ first }) => first));
    expect(heard.every((text) => text.includes('data'))).toBe(true);
    for (const { end } of listening) end();
  });

  it('replaces them one after the other without a refused booking', async () => {
    const old = serving();
    const before = await onHand();
    const replies = await bookDuring('ROLL', async () => {
      process.kill(earmark.pid, 'SIGHUP');
      await until('all are others', 60, () => !serving().some((pid) => old.includes(pid)));
      await until('two serve', 60, () => serving().length === 2);
    });
    expect(replies.length).toBeGreaterThan(20);
    expect(replies.filter(({ status }) => status !== 201)).toEqual([]);
    expect(await onHand()).toBe(before + replies.length);
  });

  it('goes on where one is killed, and has another in its place', async () => {
    const [victim] = serving();
    const before = await onHand();
    process.kill(victim!, 'SIGKILL');
    await until('another took its place', 60, () => {
      const now = serving();
      return now.length === 2 && !now.includes(victim!);
    });
    let lot = 0;
    const replies = await each(8, (agent) =>
      call('POST', 'openings', opening(`AFTER-${++lot}`), agent)
    );
    expect(replies.map(({ status }) => status)).toEqual(Array(8).fill(201));
    expect(await onHand()).toBe(before + 8);
  });

  it('refuses a number that is none', async () => {
    const port = String(await anyFreePort());
    await expect(start({ PORT: port }, '--processes', 'two')).rejects.toThrow(
      '--processes is "two"; it must be a whole number from 1 to 16.'
    );
    await expect(start({ PORT: port }, '--proceses', '2')).rejects.toThrow('--processes N');
  });

  it('stops all of them, and the database', async () => {
    const pids = serving();
    expect(await earmark.stop()).toBe(0);
    for (const pid of pids) expect(() => process.kill(pid, 0)).toThrow('ESRCH');
    expect(existsSync(join(folder, 'data', 'postgres', 'postmaster.pid'))).toBe(false);
    expect(readFileSync(join(folder, 'data', 'postgres', 'server.log'), 'utf8')).not.toContain(
      'PANIC'
    );
  });
});

/** How many times products were asked for, by the figures of all processes. */
async function counted(): Promise<number> {
  const { text, status } = await call('GET', '/metrics');
  expect(status).toBe(200);
  const line = /earmark_request_seconds_count\{[^}]*route="\/api\/v1\/products"[^}]*\} (\d+)/;
  return Number(line.exec(text)?.[1] ?? 0);
}

/** The cookie of a session of the first administrator. */
const signedIn = (): Promise<string> =>
  asked(async (sql) => {
    const [person] = await sql<[{ id: number }]>`SELECT id FROM person WHERE login = 'admin'`;
    const of = { person: person.id, address: '127.0.0.1', agent: 'test', factorShown: true };
    return `earmark_session=${(await openSession(sql, of)).secret}`;
  });

/** Follows the news over a connection of its own. */
function listen(
  agent: Agent,
  cookie: string
): Promise<{ first: Promise<string>; end: () => void }> {
  const headers = { cookie };
  return new Promise((done, fail) => {
    const asked = request(`${earmark.url}/news`, { headers, agent }, (reply) => {
      const first = new Promise<string>((heard) => {
        reply.on('data', (part) => {
          if (String(part).includes('data')) heard(String(part));
        });
      });
      done({ first, end: () => asked.destroy() });
    });
    asked.on('error', fail);
    asked.end();
  });
}
