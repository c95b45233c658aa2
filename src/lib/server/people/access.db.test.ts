import { mayAttempt } from './attempts.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeToken, putPerson, revokeToken } from './write-people.ts';
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

  it('is limited: after six wrong passwords even the right one waits, from whatever address', async () => {
    await putPerson(world.sql, null, 'bob', {
      name: 'Bob',
      roles: ['auditor'],
      active: true,
      password: 'a long password'
    });
    for (let n = 0; n < 6; n++)
      expect(await signIn(world.sql, 'bob', 'wrong', `10.1.0.${n}`)).toEqual({
        ok: false,
        why: 'wrong'
      });
    expect(await signIn(world.sql, 'bob', 'a long password', '10.1.0.99')).toEqual({
      ok: false,
      why: 'too-many'
    });
    await world.owner`UPDATE rate_limit SET expire = expire - 16 * 60 * 1000 WHERE key = 'login:BOB'`;
    expect((await signIn(world.sql, 'bob', 'a long password', '10.1.0.99')).ok).toBe(true);
  });

  it('tries no more of a hundred guesses sent at once than of a hundred sent one by one', async () => {
    const tried = await Promise.all(
      Array.from({ length: 100 }, (_, n) => mayAttempt(world.sql, 'eve', `10.3.0.${n}`))
    );
    expect(tried.filter(Boolean)).toHaveLength(6);
  });

  it('forgets the wrong ones once the right one came', async () => {
    for (let n = 0; n < 5; n++) await signIn(world.sql, 'bob', 'wrong', '10.4.0.1');
    expect((await signIn(world.sql, 'bob', 'a long password', '10.4.0.1')).ok).toBe(true);
    expect((await signIn(world.sql, 'bob', 'wrong', '10.4.0.1')).ok).toBe(false);
    expect((await signIn(world.sql, 'bob', 'a long password', '10.4.0.1')).ok).toBe(true);
  });

  it('is limited by address too, over many names', async () => {
    for (let n = 0; n < 40; n++) await mayAttempt(world.sql, `guess${n}`, '10.2.0.1');
    expect(await signIn(world.sql, 'nobody', 'x', '10.2.0.1')).toEqual({
      ok: false,
      why: 'too-many'
    });
    expect(await signIn(world.sql, 'nobody', 'x', '10.2.0.2')).toEqual({ ok: false, why: 'wrong' });
  });
});

describe('tokens and roles', () => {
  it('a token books as its person with its own roles, until revoked', async () => {
    const { secret } = await makeToken(world.sql, 'ada', 'scanner', ['auditor']);
    expect(await actorOfToken(world.sql, secret)).toMatchObject({
      login: 'ada',
      roles: ['auditor'],
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
