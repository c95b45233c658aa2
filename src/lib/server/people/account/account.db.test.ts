import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { refusalsOf } from '../../testing/caught.ts';
import { maySign } from '../may-sign.ts';
import { actorOfToken, signIn } from '../sign-in.ts';
import { makeAccounts, PASSWORD, type Accounts } from '../testing/accounts.ts';
import { makeToken } from '../tokens.ts';
import { putPerson } from '../write-people.ts';
import { putAccessSettings } from './access-settings.ts';
import { keepBadge } from './badge.ts';
import { changePassword } from './change-password.ts';
import { lockSession, unlock } from './lock.ts';
import { endSessions, readAccount } from './read-account.ts';

const OTHER = 'seven grey herons at noon';

let world: Accounts['world'];
let person: Accounts['person'];
let session: Accounts['session'];
let again: Accounts['again'];
let withTimeCodes: Accounts['withTimeCodes'];

beforeAll(async () => {
  ({ world, person, session, again, withTimeCodes } = await makeAccounts());
});
afterAll(() => world.end());
beforeEach(() => putAccessSettings(world.sql, { factorRoles: [], lockMinutes: 30 }));

describe('the password', () => {
  it('is changed by its person who knows the old one; other sessions and tokens end', async () => {
    const login = await person();
    const here = await session(login),
      elsewhere = await session(login);
    const asked = { name: 'gate', roles: ['receiver' as const], days: 1 };
    const token = await makeToken(world.sql, null, login, asked);
    await changePassword(world.sql, here, { old: PASSWORD, password: OTHER });
    expect(await again(here.secret)).not.toBeNull();
    expect(await again(elsewhere.secret)).toBeNull();
    expect(await actorOfToken(world.sql, token.secret)).toBeNull();
    expect((await signIn(world.sql, login, PASSWORD, '10.7.1.1')).ok).toBe(false);
    expect((await signIn(world.sql, login, OTHER, '10.7.1.1')).ok).toBe(true);
  });

  it.each([
    ['a wrong old one', { old: 'not it at all', password: OTHER }, '422 right.missing old'],
    ['the same again', { old: PASSWORD, password: PASSWORD }, '422 number.malformed password'],
    ['a short one', { old: PASSWORD, password: 'short' }, '422 number.malformed password'],
    ['a known one', { old: PASSWORD, password: 'qwertyuiop123' }, '422 number.malformed password']
  ])('is not changed for %s', async (_, given, refused) => {
    const self = await session(await person());
    expect(await refusalsOf(changePassword(world.sql, self, given))).toEqual([refused]);
    expect(await again(self.secret)).not.toBeNull();
  });

  it('cannot be guessed through an open session', async () => {
    const self = await session(await person());
    const guess = () =>
      refusalsOf(changePassword(world.sql, self, { old: 'guess', password: OTHER }));
    const answers = await Promise.all(Array.from({ length: 40 }, guess));
    expect(answers.filter(([one]) => one!.startsWith('422')).length).toBe(6);
  });

  it('that somebody else set comes before everything', async () => {
    const login = await person();
    await putPerson(world.sql, world.actor, login, {
      ...{ name: 'Quill', roles: ['receiver'], active: true, password: OTHER }
    });
    const self = await session(login, OTHER);
    expect(self.wait).toBe('new password');
    await changePassword(world.sql, self, { old: OTHER, password: PASSWORD });
    expect((await again(self.secret))!.wait).toBeNull();
  });
});

describe('a device left alone', () => {
  it('locks, and its person comes back with the password under a new secret', async () => {
    const self = await session(await person(['coordinator']));
    await lockSession(world.sql, self.sessionId);
    const locked = (await again(self.secret))!;
    expect(locked.wait).toBe('unlocking');
    const wrong = unlock(world.sql, locked, { password: 'not it' }, '10.7.2.1');
    expect(await refusalsOf(wrong)).toEqual(['422 right.missing password']);
    const back = await unlock(world.sql, locked, { password: PASSWORD }, '10.7.2.1');
    expect(await again(self.secret)).toBeNull();
    expect(await again(back.secret)).toMatchObject({ wait: null, roles: ['coordinator'] });
  });

  it('locks by itself where nothing came from it for so long', async () => {
    const self = await session(await person());
    await world.owner`
      UPDATE session SET last_seen_at = now() - interval '29 minutes' WHERE id = ${self.sessionId}
    `;
    expect((await again(self.secret))!.wait).toBeNull();
    await world.owner`
      UPDATE session SET last_seen_at = now() - interval '31 minutes' WHERE id = ${self.sessionId}
    `;
    expect((await again(self.secret))!.wait).toBe('unlocking');
    // Asking does not open it.
    expect((await again(self.secret))!.wait).toBe('unlocking');
  });

  it('is taken by the next of the shift with badge and PIN, for the floor and the dock only', async () => {
    const [first, login] = [await session(await person()), await person(['builder', 'quality'])];
    const second = await session(login);
    await keepBadge(world.sql, second.personId, { badge: 'B-4711', pin: '274095' });
    await lockSession(world.sql, first.sessionId);
    const locked = (await again(first.secret))!;
    const wrong = unlock(world.sql, locked, { badge: 'B-4711', pin: '274096' }, '10.7.2.2');
    expect(await refusalsOf(wrong)).toEqual(['422 right.missing pin']);
    const back = await unlock(world.sql, locked, { badge: 'B-4711', pin: '274095' }, '10.7.2.2');
    expect(back.login).toBe(login);
    const quick = (await again(back.secret))!;
    expect(quick).toMatchObject({ login, roles: ['builder'], quick: true, wait: null });
    expect(await refusalsOf(maySign(world.sql, quick))).toEqual(['403 right.missing ']);
    expect(await again(first.secret)).toBeNull();
  });

  it('is opened by badge and PIN only where it is locked, and not by many guesses', async () => {
    const self = await session(await person());
    await keepBadge(world.sql, self.personId, { badge: 'B-4712', pin: '274095' });
    const given = { badge: 'B-4712', pin: '274095' };
    expect(await refusalsOf(unlock(world.sql, self, given, '10.7.2.3'))).toEqual([
      '409 request.malformed '
    ]);
    await lockSession(world.sql, self.sessionId);
    const locked = (await again(self.secret))!;
    const guess = (one: number) =>
      refusalsOf(unlock(world.sql, locked, { ...given, pin: `30000${one}` }, '10.7.2.3'));
    const answers = (await Promise.all(Array.from({ length: 20 }, (_, one) => guess(one)))).flat();
    expect(answers.filter((one) => one.startsWith('422')).length).toBe(6);
    expect(await refusalsOf(unlock(world.sql, locked, given, '10.7.2.3'))).toEqual([
      '429 right.missing pin'
    ]);
  });

  it('opens for no one who has not shown the second factor', async () => {
    const login = await person();
    await withTimeCodes(await session(login));
    const half = await session(login);
    await lockSession(world.sql, half.sessionId);
    const still = (await again(half.secret))!;
    expect(still.wait).toBe('second factor');
    const given = { password: PASSWORD };
    expect(await refusalsOf(unlock(world.sql, still, given, '10.7.2.4'))).toEqual([
      '409 request.malformed '
    ]);
  });

  it('is not opened by the badge of somebody whose work takes the password', async () => {
    const auditor = await session(await person(['auditor']));
    await keepBadge(world.sql, auditor.personId, { badge: 'B-4714', pin: '274095' });
    const self = await session(await person());
    await lockSession(world.sql, self.sessionId);
    const locked = (await again(self.secret))!;
    const given = { badge: 'B-4714', pin: '274095' };
    expect(await refusalsOf(unlock(world.sql, locked, given, '10.7.2.5'))).toEqual([
      '422 right.missing badge'
    ]);
  });

  it.each([
    ['five digits', '12475'],
    ['letters', '12475a'],
    ['all the same', '555555'],
    ['in a row', '345678'],
    ['in a row downwards', '876543']
  ])('takes no PIN of %s', async (_, pin) => {
    const self = await session(await person());
    const kept = keepBadge(world.sql, self.personId, { badge: 'B-9', pin });
    expect(await refusalsOf(kept)).toEqual(['422 number.malformed pin']);
  });

  it('a badge is one person’s', async () => {
    const [one, two] = [await session(await person()), await session(await person())];
    await keepBadge(world.sql, one.personId, { badge: 'B-4713', pin: '274095' });
    const taken = keepBadge(world.sql, two.personId, { badge: ' B-4713 ', pin: '374095' });
    expect(await refusalsOf(taken)).toEqual(['422 number.malformed badge']);
  });
});

describe('sessions', () => {
  it('are seen with where they are, and ended one by one or all others', async () => {
    const login = await person();
    const here = await session(login);
    const others = [await session(login), await session(login), await session(login)];
    const { sessions } = await readAccount(world.sql, here);
    expect(sessions.map((one) => one.here)).toEqual([true, false, false, false]);
    expect(sessions[0]).toMatchObject({
      agent: 'a browser',
      address: expect.stringMatching(/^10\./)
    });
    await endSessions(world.sql, here, others[0]!.sessionId);
    expect(await again(others[0]!.secret)).toBeNull();
    await endSessions(world.sql, here, 'others');
    expect(await again(others[2]!.secret)).toBeNull();
    expect(await again(here.secret)).not.toBeNull();
  });

  it('of somebody else are not theirs to end', async () => {
    const [one, two] = [await session(await person()), await session(await person())];
    await endSessions(world.sql, one, two.sessionId);
    expect(await again(two.secret)).not.toBeNull();
  });
});
