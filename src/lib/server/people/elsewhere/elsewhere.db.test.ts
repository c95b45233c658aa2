import { afterAll, beforeAll, expect, test } from 'vitest';
import type { ElsewhereSettings } from './settings.ts';
import { elsewhereSettings } from './settings.ts';
import { refusalsOf } from '../../testing/caught.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { putAccessSettings, readAccessSettings } from '../account/access-settings.ts';
import { readPeople, putPerson } from '../write-people.ts';
import { actorOfSession, signIn } from '../sign-in.ts';
import { comeIn, type CameIn } from './come-in.ts';
import { beginElsewhere, endElsewhere } from './provider.ts';
import { startProvider, type AtProvider } from './testing/provider.ts';

// Single sign-on against the reference provider, as a browser would go through it.
const BACK = 'http://localhost:4173/sign-in/back';
const PASSWORD = 'correct horse battery';
let world: World;
let provider: AtProvider;
let settings: ElsewhereSettings;
beforeAll(async () => {
  [world, provider] = [await makeWorld(), await startProvider()];
  settings = elsewhereSettings(provider.env)!;
});
afterAll(async () => {
  await provider.end();
  await world.end();
});

/** Goes where the provider sends it, with its cookies, until it is sent back to us. */
async function followed(address: string): Promise<URL> {
  const jar = new Map<string, string>();
  let next = new URL(address);
  while (!next.href.startsWith(BACK)) {
    const cookie = [...jar].map(([name, value]) => `${name}=${value}`).join('; ');
    const answer = await fetch(next, { redirect: 'manual', headers: { cookie } });
    for (const one of answer.headers.getSetCookie()) {
      const [name, value] = one.split(';')[0]!.split(/=(.*)/);
      jar.set(name!, value!);
    }
    const to = answer.headers.get('location');
    if (!to) throw new Error(`${answer.status} at ${next}: ${await answer.text()}`);
    next = new URL(to, next);
  }
  return next;
}
const begin = () => beginElsewhere(world.sql, settings, BACK, '/receive');
const end = (answer: URL, state: string) => endElsewhere(world.sql, settings, answer, state);
async function signedIn(
  claims: { sub: string } & Record<string, unknown>,
  by = settings
): Promise<CameIn> {
  provider.signsIn(claims);
  const { address, state } = await begin();
  const ended = (await end(await followed(address), state))!;
  return comeIn(world.sql, by, ended, { address: '10.4.0.1', agent: 'browser' });
}
const whoIs = async (came: CameIn) => (came.ok ? actorOfSession(world.sql, came.secret) : null);

test('somebody new comes in with the roles given there, and goes on to where they were going', async () => {
  provider.signsIn({ sub: 'u1', preferred_username: 'kim', name: 'Kim Ode', roles: ['quality'] });
  const { address, state } = await begin();
  const ended = (await end(await followed(address), state))!;
  expect(ended).toMatchObject({ issuer: provider.issuer, subject: 'u1', to: '/receive' });
  const came = await comeIn(world.sql, settings, ended, { address: '10.4.0.1', agent: 'b' });
  expect(await whoIs(came)).toMatchObject({ login: 'kim', name: 'Kim Ode', roles: ['quality'] });
});

test('who comes again is the same person, under another name and with other roles too', async () => {
  const came = await signedIn({ sub: 'u1', preferred_username: 'kim.ode', roles: ['receiver'] });
  expect(await whoIs(came)).toMatchObject({ login: 'kim', roles: ['receiver'] });
  expect((await readPeople(world.sql)).filter(({ login }) => login.startsWith('kim'))).toHaveLength(
    1
  );
});

test('an answer counts once, in the browser that began it, and not with another’s code', async () => {
  provider.signsIn({ sub: 'u2', preferred_username: 'lou', roles: ['receiver'] });
  const [mine, others] = [await begin(), await begin()];
  const answer = await followed(mine.address);
  expect(await end(answer, 'a state nobody has')).toBeNull();
  await expect(end(answer, others.state)).rejects.toThrow();
  expect(await end(answer, mine.state)).toMatchObject({ subject: 'u2' });
  expect(await end(answer, mine.state)).toBeNull();
});

test('a code that was changed, or one that was stolen for another sign-in, lets nobody in', async () => {
  provider.signsIn({ sub: 'u2', preferred_username: 'lou', roles: ['receiver'] });
  const changed = await begin();
  const answer = await followed(changed.address);
  answer.searchParams.set('code', 'x'.repeat(43));
  await expect(end(answer, changed.state)).rejects.toThrow();
  // Put into the answer to a sign-in of the thief's own: its verifier is not the code's.
  const [victim, thief] = [await begin(), await begin()];
  const stolen = (await followed(victim.address)).searchParams.get('code')!;
  const own = await followed(thief.address);
  own.searchParams.set('code', stolen);
  await expect(end(own, thief.state)).rejects.toThrow();
});

test('nobody comes in without a role here, nor who has left', async () => {
  expect(await signedIn({ sub: 'u3', preferred_username: 'max', roles: ['guests'] })).toMatchObject(
    {
      ok: false
    }
  );
  await signedIn({ sub: 'u4', preferred_username: 'ned', roles: ['receiver'] });
  await world.owner`UPDATE person SET active = false WHERE login = 'ned'`;
  expect(await signedIn({ sub: 'u4', preferred_username: 'ned', roles: ['receiver'] })).toEqual({
    ok: false,
    why: 'ned has left here.'
  });
});

test('who takes the name of somebody here is not them, unless names are said to be the same', async () => {
  await putPerson(world.sql, null, 'ada', {
    ...{ name: 'Ada', roles: ['administrator'], active: true, password: PASSWORD }
  });
  const claims = { sub: 'u5', preferred_username: 'ADA', roles: ['receiver'] };
  expect(await signedIn(claims)).toMatchObject({ ok: false });
  const came = await signedIn(claims, { ...settings, sameNames: true });
  expect(await whoIs(came)).toMatchObject({ login: 'ada', roles: ['receiver'] });
});

test('many who come in for the first time at once are each made once', async () => {
  const claims = (n: number) => ({
    ...{ issuer: provider.issuer, subject: `m${n % 3}`, to: '/' },
    claims: { preferred_username: `many${n % 3}`, roles: ['receiver'] }
  });
  const came = await Promise.all(
    Array.from({ length: 12 }, (_, n) =>
      comeIn(world.sql, settings, claims(n), { address: '10.4.0.2', agent: '' })
    )
  );
  expect(came.every(({ ok }) => ok)).toBe(true);
  const people = (await readPeople(world.sql)).filter(({ login }) => login.startsWith('many'));
  expect(people).toHaveLength(3);
});

test('passwords can be switched off for everybody but one, who then comes in by it only', async () => {
  await putPerson(world.sql, null, 'boss', {
    ...{ name: 'Boss', roles: ['administrator'], active: true, password: PASSWORD }
  });
  const kept = await readAccessSettings(world.sql);
  const only = (onlyLocal: string | null) => putAccessSettings(world.sql, { ...kept, onlyLocal });
  expect(await refusalsOf(only('nobody-there'))).toEqual(['422 request.malformed onlyLocal']);
  expect(await refusalsOf(only('kim'))).toEqual(['422 request.malformed onlyLocal']);
  await only('BOSS');
  expect(await readAccessSettings(world.sql)).toMatchObject({ onlyLocal: 'boss' });
  const byPassword = async (login: string) =>
    (await signIn(world.sql, login, PASSWORD, '10.4.0.3')).ok;
  expect([await byPassword('ada'), await byPassword('boss')]).toEqual([false, true]);
  const claims = { sub: 'u6', preferred_username: 'boss', roles: ['receiver'] };
  expect(await signedIn(claims, { ...settings, sameNames: true })).toMatchObject({ ok: false });
  await only(null);
  expect(await byPassword('ada')).toBe(true);
});

test('settings that cannot be used say what mends them', () => {
  expect(elsewhereSettings({})).toBeNull();
  expect(() => elsewhereSettings({ EARMARK_OIDC_ISSUER: 'https://id.example' })).toThrow(
    'EARMARK_OIDC_CLIENT_ID'
  );
  expect(() => elsewhereSettings({ ...provider.env, EARMARK_OIDC_ROLES: '{"x":"king"}' })).toThrow(
    'EARMARK_OIDC_ROLES cannot be read'
  );
});
