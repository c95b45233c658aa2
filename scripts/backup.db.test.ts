import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { anyFreePort } from './machine.mjs';
import { asOwnerOf } from './on-database.ts';
import { DOCK, FLOUR, openingOf } from './testing/flour.ts';
import { command, start, type Started } from './testing/started.ts';

// The commands as an operator gives them: Earmark with a cluster of its own, backed up while it
// works, destroyed, and brought back.
const TOKEN = 'a-token-for-the-backup-test';
let folder: string;
let env: Record<string, string>;
/** Named to the commands only: what serves would begin to take backups by itself. */
let named: Record<string, string>;
let earmark: Started | null = null;

const up = async () => {
  // Another may have taken the port it had before.
  earmark = await start({ ...env, EARMARK_PG_PORT: String(await anyFreePort()) });
};
const down = async () => {
  await earmark?.stop();
  earmark = null;
};

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'earmark-backup-'));
  chmodSync(folder, 0o755);
  env = {
    EARMARK_DATA: join(folder, 'data'),
    EARMARK_TOKEN: TOKEN
  };
  named = { ...env, EARMARK_BACKUP: join(folder, 'kept') };
});
afterAll(async () => {
  await down();
  rmSync(folder, { recursive: true, force: true });
});

async function call(method: string, path: string, body?: object): Promise<Response> {
  return await fetch(`${earmark!.url}/api/v1/${path}`, {
    method,
    headers: {
      authorization: `Bearer ${TOKEN}`,
      'content-type': 'application/json',
      'idempotency-key': path + JSON.stringify(body)
    },
    ...(body ? { body: JSON.stringify(body) } : {})
  });
}

/** Books so much of a lot as opening stock. */
async function open(document: string, lot: string): Promise<void> {
  const reply = await call('POST', 'openings', openingOf(document, lot, '5'));
  expect(reply.status, await reply.text()).toBe(201);
}

async function lots(): Promise<string[]> {
  const reply = await call('GET', 'marks?product=FLOUR');
  const { marks } = (await reply.json()) as { marks: { number: string }[] };
  return marks.map(({ number }) => number).sort();
}

const data = (...path: string[]) => join(env.EARMARK_DATA!, ...path);
const stateOf = () =>
  JSON.parse(readFileSync(data('backup.json'), 'utf8')) as Record<string, string | null>;

/** As the owner, who can do what no booking can. */
const asOwner = (statement: string) =>
  asOwnerOf(data(), (sql) => sql.unsafe(`SET session_replication_role = replica; ${statement}`));

/** An instant is named to the second. */
const thisSecond = (): string => `${new Date().toISOString().slice(0, 19)}Z`;
const nextSecond = () => new Promise((go) => setTimeout(go, 1010));

const backup = (...args: string[]) => command('scripts/backup.ts', named, ...args);
const restore = (...args: string[]) => command('scripts/restore.ts', named, ...args);

describe('npm run backup and npm run restore', () => {
  it('say what is missing before there is anything', async () => {
    expect(backup().says).toContain('No database is running');
    expect(restore().says).toContain(`There are no backups in ${named.EARMARK_BACKUP}`);
  });

  it('take a backup beside the work, prove it, and know when the next is due', async () => {
    await up();
    expect((await call('PUT', 'products/FLOUR', FLOUR)).status).toBe(201);
    expect((await call('PUT', 'places/DOCK', DOCK)).status).toBe(201);
    await open('OPEN-1', 'EARLY');

    const first = backup();
    expect(first.says).toMatch(/It holds: \d+ events reconciled and verified/);
    expect(first.code).toBe(0);
    expect(stateOf()).toMatchObject({ backupFault: null, checkFault: null });
    // Nothing is left of the copy it was proved in.
    expect(readdirSync(data()).filter((name) => name.startsWith('check-'))).toEqual([]);
    expect(backup('--due')).toEqual({ says: '', code: 0 });
    expect(restore().says).toContain(`Earmark is running in ${env.EARMARK_DATA}`);
  });

  it('bring back an instant, and all there is, also where the whole data folder is gone', async () => {
    await nextSecond();
    const instant = thisSecond();
    await nextSecond();
    await open('OPEN-2', 'LATE');
    await down();

    await nextSecond();
    const late = restore('--at', thisSecond());
    expect(late.says).toContain('the last of it is earlier');
    expect(late.code).toBe(1);
    // What was there stands again.
    expect(readdirSync(data()).filter((name) => name.startsWith('postgres'))).toEqual(['postgres']);

    rmSync(data(), { recursive: true });
    const whole = restore();
    expect(whole.says).toContain('Put back from beside the backups: secret.json');
    expect(whole.says).toContain('All of it holds');
    expect(whole.says).toContain('Brought back: 2 events');
    expect(whole.code).toBe(0);

    const early = restore('--at', instant);
    expect(early.says).toContain('All of it holds');
    expect(readdirSync(data()).some((name) => name.startsWith('postgres.before-'))).toBe(true);
    await up();
    expect(await lots()).toEqual(['EARLY']);
    // It goes on from there.
    await open('OPEN-3', 'AFTER');
  });

  it('tell a backup that does not hold, and one that cannot be made', async () => {
    await asOwner(`UPDATE stock SET quantity = 4 WHERE quantity = 5`);
    const broken = backup('--check');
    expect(broken.says).toContain('expected 5.000000, found 4.000000');
    expect(broken.code).toBe(1);
    expect(stateOf().checkFault).toContain('do not hold');

    await down();
    rmSync(data('postgres'), { recursive: true });
    await up(); // somebody began anew instead of bringing it back
    const other = backup();
    expect(other.says).toContain('are of another database');
    expect(stateOf().backupFault).toContain('are of another database');
    expect(existsSync(join(named.EARMARK_BACKUP!, 'repository'))).toBe(true);
  });
});
