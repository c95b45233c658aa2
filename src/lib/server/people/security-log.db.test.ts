import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import { logSecurity, readSecurityLog } from './security-log.ts';
import { signIn } from './sign-in.ts';
import { putPerson } from './write-people.ts';

let world: World;
const folder = mkdtempSync(join(tmpdir(), 'earmark-log-'));
beforeAll(async () => {
  world = await makeWorld();
  process.env.EARMARK_SECURITY_LOG = join(folder, 'security.jsonl');
});
afterAll(async () => {
  delete process.env.EARMARK_SECURITY_LOG;
  rmSync(folder, { recursive: true });
  await world.end();
});
const read = (asked: Parameters<typeof readSecurityLog>[1] = {}, most = 100) =>
  readSecurityLog(world.sql, asked, most);

test('who signed in, who tried, and from where', async () => {
  const password = 'correct horse battery';
  const person = { name: 'Ada', roles: ['receiver' as const], active: true, password };
  await putPerson(world.sql, null, 'ada', person);
  await signIn(world.sql, 'ada', 'wrong', '10.0.0.7');
  await signIn(world.sql, 'ada', password, '10.0.0.8');
  await signIn(world.sql, 'nobody', password, '10.0.0.9');
  expect(
    (await read()).map(({ kind, who, login, address }) => [kind, who, login, address])
  ).toEqual([
    ['sign-in refused', null, 'nobody', '10.0.0.9'],
    ['signed in', 'Ada', 'ada', '10.0.0.8'],
    ['sign-in refused', null, 'ada', '10.0.0.7']
  ]);
  expect((await read({ who: 'ADA' })).map((line) => line.kind)).toEqual([
    'signed in',
    'sign-in refused'
  ]);
  expect(await read({ kind: 'signed in', to: '2001-01-01' })).toEqual([]);
  const [latest] = await read({}, 1);
  expect((await read({ before: latest!.id })).map((line) => line.login)).toEqual(['ada', 'ada']);
});

test('a collector gets the same, a line of JSON each', () => {
  const lines = readFileSync(join(folder, 'security.jsonl'), 'utf8').trim().split('\n');
  expect(lines.map((line) => JSON.parse(line))).toMatchObject([
    { kind: 'sign-in refused', who: 'ada', address: '10.0.0.7' },
    { kind: 'signed in', who: 'ada', address: '10.0.0.8' },
    { kind: 'sign-in refused', who: 'nobody' }
  ]);
});

test('it is added to only, and whoever is refused in a loop does not fill it', async () => {
  const act = {
    kind: 'refused' as const,
    actor: world.actor,
    address: '10.0.0.1',
    about: 'GET /x'
  };
  for (let n = 0; n < 200; n++) await logSecurity(world.sql, act);
  expect(await read({ kind: 'refused' }, 1000)).toHaveLength(60);
  const changed = world.sql`DELETE FROM security_log`;
  await expect(changed).rejects.toMatchObject({ code: '42501' });
  const byOwner = world.owner`UPDATE security_log SET about = ''`;
  await expect(byOwner).rejects.toThrow(/append-only/);
});
