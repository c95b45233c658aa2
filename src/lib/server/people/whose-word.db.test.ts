import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Role } from '../../core/people/rights.ts';
import type { Actor } from '../kernel/actor.ts';
import { readEventPage } from '../ledger/event-page.ts';
import { receive } from '../receiving/kinds.ts';
import { book, type BookedAnswer } from '../ledger/book.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { approve } from './approvals.ts';
import { maySign } from './may-sign.ts';
import { actorOfSession, actorOfToken, signIn } from './sign-in.ts';
import { makeToken } from './tokens.ts';
import { putPerson, readPeople } from './write-people.ts';

// What an administrator did to have the ledger name somebody else, and what a token outlived.
const PASSWORD = 'correct horse battery';
let world: World;
let admin: Actor;
let n = 0;
beforeAll(async () => {
  world = await makeWorld();
  admin = await personWith(['administrator'], null);
});
afterAll(() => world.end());

async function personWith(roles: Role[], by: Actor | null): Promise<Actor> {
  const login = `p${++n}`;
  const name = `Person ${n}`;
  await putPerson(world.sql, by, login, { name, roles, active: true, password: PASSWORD });
  return signedIn(login);
}
async function signedIn(login: string): Promise<Actor> {
  const session = await signIn(world.sql, login, PASSWORD, `10.9.0.${++n}`);
  if (!session.ok) throw new Error(session.why);
  return session.actor;
}
const tokenFor = async (actor: Actor, roles: Role[], by: Actor | null = admin) =>
  (await makeToken(world.sql, by, actor.login, { name: 'gate', roles, days: 30 })).secret;
const put = (actor: Actor | null, of: Actor, more: object) =>
  putPerson(world.sql, actor, of.login, {
    ...{ name: of.name, roles: [...of.roles], active: true },
    ...more
  });

test('nobody gives a role to themselves; another administrator may', async () => {
  const grant = { roles: ['administrator', 'quality'] as Role[] };
  expect(await refusalsOf(put(admin, admin, grant))).toEqual(['422 right.missing roles']);
  const other = await personWith(['administrator'], null);
  await put(other, admin, grant);
  expect((await signedIn(admin.login)).roles).toEqual(['administrator', 'quality']);
});

test('a token may do no more than its person, when it is made and afterwards', async () => {
  const auditor = await personWith(['auditor', 'receiver'], null);
  expect(await refusalsOf(tokenFor(auditor, ['shipper']))).toEqual(['422 right.missing roles']);
  const secret = await tokenFor(auditor, ['auditor', 'receiver']);
  await put(admin, auditor, { roles: ['auditor'] });
  expect((await actorOfToken(world.sql, secret))!.roles).toEqual(['auditor']);
  await put(admin, auditor, { roles: ['builder'] });
  expect(await actorOfToken(world.sql, secret)).toBeNull();
});

test('what a token books names it, and who made it', async () => {
  const receiver = await personWith(['receiver'], null);
  const actor = (await actorOfToken(world.sql, await tokenFor(receiver, ['receiver'])))!;
  const { answer } = await book(world.sql, receive, actor, newKey(), {
    document: 'BY-TOKEN',
    supplier: 'SUP',
    lines: [{ product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: `W${n}` }] }]
  } as never);
  const { event } = JSON.parse(answer) as BookedAnswer;
  const page = (await readEventPage(world.sql, event.id))!;
  expect(page).toMatchObject({
    who: receiver.name,
    token: { name: 'gate', madeBy: admin.name }
  });
});

test('a token ends on its day, with its person’s password, and with their leave, and stays ended', async () => {
  const person = await personWith(['receiver'], null);
  const secret = await tokenFor(person, ['receiver']);
  const alive = async (token: string) => (await actorOfToken(world.sql, token)) !== null;
  expect(await alive(secret)).toBe(true);
  const [used] = (await readPeople(world.sql)).find((one) => one.login === person.login)!.tokens;
  expect(used!.lastUsed).not.toBeNull();
  await world.owner`UPDATE api_token SET expires_at = now() WHERE id = ${used!.id}`;
  expect(await alive(secret)).toBe(false);

  const second = await tokenFor(person, ['receiver']);
  await put(admin, person, { password: `${PASSWORD} anew` });
  expect(await alive(second)).toBe(false);

  const third = await tokenFor(person, ['receiver']);
  await put(admin, person, { active: false });
  await put(admin, person, { active: true });
  expect(await alive(third)).toBe(false);
});

test('a password somebody else set signs nothing for a day; a token never does', async () => {
  const own = await personWith(['quality'], null);
  await maySign(world.sql, own);
  const token = (await actorOfToken(world.sql, await tokenFor(own, ['quality'])))!;
  expect(await refusalsOf(maySign(world.sql, token))).toEqual(['403 right.missing ']);

  await put(admin, own, { password: PASSWORD });
  expect(await refusalsOf(maySign(world.sql, own))).toEqual(['403 right.missing password']);
  const asked = { login: own.login, password: PASSWORD, document: 'D', reason: 'so' };
  const faults = [{ code: 'mark.reserved', number: null, message: 'promised' }];
  const approval = () => approve(world.sql, world.actor, { ...asked, faults });
  expect(await refusalsOf(approval())).toEqual(['403 right.missing password']);
  await world.owner`
    UPDATE person SET password_set_at = now() - interval '25 hours' WHERE login = ${own.login}
  `;
  await maySign(world.sql, own);
  expect((await approval()).by).toBe(own.name);
});

test('a session ends with a new password, whoever set it', async () => {
  const person = await personWith(['receiver'], null);
  const session = await signIn(world.sql, person.login, PASSWORD, '10.9.1.1');
  if (!session.ok) throw new Error(session.why);
  await put(admin, person, { password: `${PASSWORD} anew` });
  expect(await actorOfSession(world.sql, session.secret)).toBeNull();
});
