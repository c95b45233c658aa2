import { mayAttempt } from './attempts.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeToken, revokeToken } from './tokens.ts';
import { putPerson } from './write-people.ts';
import { book } from '../ledger/book.ts';
import { receive } from '../receiving/kinds.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { actorOfSession, actorOfToken, signIn, signOut } from './sign-in.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPerson(world.sql, null, 'ada', {
    name: 'Ada Test',
    roles: ['receiver'],
    active: true,
    password: 'correct horse battery'
  });
});
afterAll(() => world.end());

describe('signing in', () => {
  it('opens a session that ends on sign-out, on expiry and when the person may no longer', async () => {
    const first = await signIn(world.sql, ' ADA ', 'correct horse battery', '10.0.0.1');
    if (!first.ok) throw new Error(first.why);
    expect(await actorOfSession(world.sql, first.secret)).toMatchObject({
      login: 'ada',
      roles: ['receiver'],
      via: 'session'
    });
    await signOut(world.sql, first.secret);
    expect(await actorOfSession(world.sql, first.secret)).toBeNull();

    const second = await signIn(world.sql, 'ada', 'correct horse battery', '10.0.0.1');
    if (!second.ok) throw new Error(second.why);
    await world.owner`UPDATE session SET expires_at = now() - interval '1 second'`;
    expect(await actorOfSession(world.sql, second.secret)).toBeNull();

    const third = await signIn(world.sql, 'ada', 'correct horse battery', '10.0.0.1');
    if (!third.ok) throw new Error(third.why);
    await putPerson(world.sql, null, 'ada', {
      name: 'Ada Test',
      roles: ['receiver'],
      active: false
    });
    expect(await actorOfSession(world.sql, third.secret)).toBeNull();
    expect((await signIn(world.sql, 'ada', 'correct horse battery', '10.0.0.1')).ok).toBe(false);
    await putPerson(world.sql, null, 'ada', {
      name: 'Ada Test',
      roles: ['receiver'],
      active: true
    });
  });

  it('keeps neither passwords nor secrets, only their hashes', async () => {
    const signedIn = await signIn(world.sql, 'ada', 'correct horse battery', '10.0.0.2');
    const [person] = await world.sql`SELECT password_hash FROM person WHERE login = 'ada'`;
    expect(person!.password_hash).toMatch(/^\$argon2id\$v=19\$m=65536,t=3,p=1\$/);
    const sessions = await world.sql`SELECT encode(token_hash, 'escape') AS hash FROM session`;
    expect(sessions.some((row) => signedIn.ok && row.hash.includes(signedIn.secret))).toBe(false);
  });

  const wrong = (login: string, address: string) => signIn(world.sql, login, 'wrong', address);
  const tooMany = { ok: false, why: 'too-many', wait: expect.any(Number) };

  it('is limited: after six wrong passwords from one place even the right one waits there', async () => {
    const bob = { name: 'Bob', roles: ['auditor' as const], active: true };
    await putPerson(world.sql, null, 'bob', { ...bob, password: 'a long password' });
    for (let n = 0; n < 6; n++)
      expect(await wrong('bob', '10.1.0.1')).toEqual({ ok: false, why: 'wrong' });
    const refused = await signIn(world.sql, 'bob', 'a long password', '10.1.0.1');
    expect(refused).toEqual(tooMany);
    expect(refused.ok === false && refused.why === 'too-many' && refused.wait).toBeLessThan(901);
    expect((await signIn(world.sql, 'bob', 'a long password', '10.1.0.2')).ok).toBe(true);
    await world.owner`UPDATE rate_limit SET expire = expire - 16 * 60 * 1000`;
    expect((await signIn(world.sql, 'bob', 'a long password', '10.1.0.1')).ok).toBe(true);
  });

  it('tries no more of a hundred guesses sent at once than of a hundred sent one by one', async () => {
    const triedFrom = async (login: string, address: (n: number) => string) => {
      const all = Array.from({ length: 100 }, (_, n) => mayAttempt(world.sql, login, address(n)));
      return (await Promise.all(all)).filter((one) => one.ok).length;
    };
    expect(await triedFrom('eve', () => '10.3.0.1')).toBe(6);
    expect(await triedFrom('mallory', (n) => `10.3.1.${n}`)).toBe(20);
  });

  it('keeps nobody out whose name is guessed elsewhere, where they signed in lately', async () => {
    expect((await signIn(world.sql, 'bob', 'a long password', '10.5.0.1')).ok).toBe(true);
    for (let n = 0; n < 30; n++) await mayAttempt(world.sql, 'bob', `10.5.1.${n}`);
    expect(await signIn(world.sql, 'bob', 'a long password', '10.5.2.1')).toEqual(tooMany);
    expect((await signIn(world.sql, 'bob', 'a long password', '10.5.0.1')).ok).toBe(true);
    await world.owner`DELETE FROM rate_limit`;
  });

  it('forgets the wrong ones once the right one came', async () => {
    for (let n = 0; n < 5; n++) await signIn(world.sql, 'bob', 'wrong', '10.4.0.1');
    expect((await signIn(world.sql, 'bob', 'a long password', '10.4.0.1')).ok).toBe(true);
    expect((await signIn(world.sql, 'bob', 'wrong', '10.4.0.1')).ok).toBe(false);
    expect((await signIn(world.sql, 'bob', 'a long password', '10.4.0.1')).ok).toBe(true);
  });

  it('is limited by address too, over many names; a firm behind one gate goes on', async () => {
    expect((await signIn(world.sql, 'bob', 'a long password', '10.2.0.1')).ok).toBe(true);
    for (let n = 0; n < 200; n++) await mayAttempt(world.sql, `guess${n}`, '10.2.0.1');
    expect(await wrong('nobody', '10.2.0.1')).toEqual(tooMany);
    expect(await wrong('nobody', '10.2.0.2')).toEqual({ ok: false, why: 'wrong' });
    expect((await signIn(world.sql, 'bob', 'a long password', '10.2.0.1')).ok).toBe(true);
  });
});

describe('tokens and roles', () => {
  it('a token books as its person with its own roles, until revoked', async () => {
    const asked = { name: 'scanner', roles: ['receiver' as const], days: 1 };
    const { secret } = await makeToken(world.sql, null, 'ada', asked);
    expect(await actorOfToken(world.sql, secret)).toMatchObject({
      login: 'ada',
      roles: ['receiver'],
      via: 'token'
    });
    const [row] = await world.sql<
      { id: number }[]
    >`SELECT id FROM api_token WHERE name = 'scanner'`;
    await revokeToken(world.sql, 'ada', row!.id);
    expect(await actorOfToken(world.sql, secret)).toBeNull();
    expect(await actorOfToken(world.sql, 'made up')).toBeNull();
  });

  it('a booking checks its right itself, whatever let the request through', async () => {
    const auditor = { ...world.actor, roles: ['auditor' as const] };
    await expect(
      book(world.sql, receive, auditor, newKey(), { document: 'R', supplier: 'SUP', lines: [] })
    ).rejects.toMatchObject({
      status: 403,
      errors: [{ code: 'right.missing', message: expect.stringContaining('receiver, coordinator') }]
    });
  });

  it('an administrator cannot take their own administration away; short passwords are refused', async () => {
    await expect(
      putPerson(world.sql, world.actor, 'test', { name: 'Test', roles: ['receiver'], active: true })
    ).rejects.toMatchObject({ status: 422 });
    await expect(
      putPerson(world.sql, null, 'cy', { name: 'Cy', roles: [], active: true, password: 'short' })
    ).rejects.toMatchObject({ status: 422 });
  });
});
