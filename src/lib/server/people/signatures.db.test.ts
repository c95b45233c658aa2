import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { plainPlan } from '../../core/catalogue/plan.ts';
import type { Role } from '../../core/people/rights.ts';
import { ACTS, type SignedAct, type Signer } from '../../core/people/signing.ts';
import { NO_SPEC } from '../../core/quality/spec.ts';
import { putPlan } from '../catalogue/plans.ts';
import { putProduct } from '../catalogue/products.ts';
import { putSpec } from '../catalogue/specs.ts';
import type { Actor } from '../kernel/actor.ts';
import { book, type BookedAnswer } from '../ledger/book.ts';
import { decideScope, openRecall } from '../recall/write-recall.ts';
import { issueCertificate } from '../quality/issue-certificate.ts';
import { quality } from '../quality/kinds.ts';
import { recordTest, signTest } from '../quality/test-mark.ts';
import { leavesOf } from '../seal/leaves.ts';
import { amend } from '../stock/kinds.ts';
import { caught, problemOf, refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { readSigned, sign } from './signatures.ts';
import { signIn } from './sign-in.ts';
import { putPerson } from './write-people.ts';

// Acts that a plan has signed: refused without, by the database too; whose, for what, and once.
const PASSWORD = 'harbour lantern walk';
let world: World, own: Actor, second: Actor, builder: Actor;
let lot = '';
let n = 0;

async function person(login: string, roles: Role[]): Promise<Actor> {
  await putPerson(world.sql, null, login, {
    ...{ name: `Name of ${login}`, roles, active: true, password: PASSWORD }
  });
  const session = await signIn(world.sql, login, PASSWORD, '10.3.0.1');
  if (!session.ok) throw new Error(session.why);
  return session.actor;
}
/** Asks for the signature of every act. */
const ask = (signer: Signer) =>
  putPlan(world.sql, world.actor, 'SIGNED', {
    ...{ name: 'signed', ...plainPlan('lot') },
    signers: Object.fromEntries(ACTS.map((act) => [act, signer]))
  });
const signed = async (act: SignedAct, document: string, more: object = {}) =>
  (
    await sign(world.sql, own, {
      ...{ act, document, password: PASSWORD, reason: 'Looked at.' },
      ...more
    })
  ).signature;
const decide = (kind: 'hold' | 'release', document: string, signature?: string, by = own) =>
  book(world.sql, quality, by, newKey(), {
    ...{ document, kind, reason: 'As tested.', marks: [{ product: 'SGN', lot }] },
    ...(signature ? { signature } : {})
  });
const eventOf = ({ answer }: { answer: string }) => (JSON.parse(answer) as BookedAnswer).event.id;

beforeAll(async () => {
  world = await makeWorld();
  [own, second] = [
    await person('own', ['quality', 'coordinator']),
    await person('second', ['quality'])
  ];
  builder = await person('builder', ['builder']);
  await ask('whoever does it');
  await putProduct(world.sql, 'SGN', {
    ...{ name: 'signed', unit: 'each', decimals: 0, made: false, marking: 'lot', plan: 'SIGNED' }
  } as never);
});
afterAll(() => world.end());
beforeEach(async () => {
  lot = `L${++n}`;
  await world.receive('SGN', [{ lot, quantity: '5' }], '5');
});

test('a release without its signature is refused; with it, it says what it means, who, when and why', async () => {
  await decide('hold', `H-${n}`);
  expect(await caught(decide('release', `REL-${n}`))).toMatchObject([
    { code: 'signature.missing', sign: { act: 'release', signer: 'whoever does it' } }
  ]);
  const event = eventOf(await decide('release', `REL-${n}`, await signed('release', `REL-${n}`)));
  expect(await readSigned(world.sql, { event })).toMatchObject([
    { means: 'released by', by: 'Name of own', reason: 'Looked at.' }
  ]);
  const [leaf] = await leavesOf(world.sql, [event]);
  expect(JSON.parse(leaf!.text)).toMatchObject({ signed: [{ meaning: 'released by' }] });
});

test('it is for one act on one document by one person, and signs one thing', async () => {
  await decide('hold', `H-${n}`);
  const given = await signed('release', `ONE-${n}`);
  const missing = ['422 signature.missing signature'];
  expect(await refusalsOf(decide('release', `OTHER-${n}`, given))).toEqual(missing);
  expect(await refusalsOf(decide('release', `ONE-${n}`, given, second))).toEqual(missing);
  expect(
    await refusalsOf(decide('release', `ONE-${n}`, await signed('count', `ONE-${n}`)))
  ).toEqual(missing);
  await decide('release', `ONE-${n}`, given);
  await decide('hold', `H-${n}`);
  expect(await refusalsOf(decide('release', `ONE-${n}`, given))).toEqual(missing);
});

test('of two acts that use one signature at once, one is refused', async () => {
  const other = `L${n}b`;
  await world.receive('SGN', [{ lot: other, quantity: '1' }], '1');
  await decide('hold', `H-${n}`);
  const kept = lot;
  lot = other;
  await decide('hold', `H-${n}b`);
  const given = await signed('release', `RACE-${n}`);
  const runs = [kept, other].map((one) => {
    lot = one;
    return decide('release', `RACE-${n}`, given);
  });
  const ended = await Promise.allSettled(runs);
  expect(ended.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
});

test('a second person is another, who may do it themselves, with their own password', async () => {
  await ask('a second person');
  await decide('hold', `H-${n}`);
  const document = `TWO-${n}`;
  expect(await refusalsOf(decide('release', document, await signed('release', document)))).toEqual([
    '422 signature.missing signature'
  ]);
  const refused = (more: object) => refusalsOf(signed('release', document, more));
  expect(await refused({ login: 'second', password: 'not theirs at all' })).toEqual([
    '422 right.missing password'
  ]);
  expect(await refused({ login: 'nobody-there' })).toEqual(['422 right.missing password']);
  expect(await refused({ login: 'builder' })).toEqual(['422 right.missing login']);
  await decide('release', document, await signed('release', document, { login: 'SECOND' }));
  await ask('whoever does it');
});

test('a token and a badge sign nothing, also not with a second person’s password', async () => {
  const given = { act: 'release', document: 'T', password: PASSWORD, reason: 'r' } as const;
  const by = (more: Partial<Actor>, who: object = {}) =>
    problemOf(sign(world.sql, { ...own, ...more }, { ...given, ...who }));
  expect((await by({ via: 'token' })).status).toBe(403);
  expect((await by({ via: 'token' }, { login: 'second' })).status).toBe(403);
  expect((await by({ quick: true })).status).toBe(403);
});

test('guesses at a password are limited', async () => {
  const guess = () =>
    problemOf(signed('release', 'G', { login: builder.login, password: 'no such one' }));
  const seen = [];
  for (let i = 0; i < 8; i++) seen.push((await guess()).status);
  expect(seen.at(-1)).toBe(429);
});

test('numbers and dates are signed, a retest date is not', async () => {
  const put = (to: object, signature?: string) =>
    book(world.sql, amend, own, newKey(), {
      ...{ document: `AM-${n}`, reason: 'Misread.', lines: [{ product: 'SGN', lot, to }] },
      ...(signature ? { signature } : {})
    } as never);
  await put({ retest: '2031-01-01' });
  expect(await refusalsOf(put({ expires: '2031-01-01' }))).toEqual([
    '422 signature.missing signature'
  ]);
  await put({ expires: '2031-01-01' }, await signed('amendment', `AM-${n}`));
});

test('a certificate and the scope of a recall are signed, and say so', async () => {
  await putSpec(world.sql, world.actor, 'SGN', null, {
    ...NO_SPEC,
    limits: [
      {
        ...{ name: 'force', kind: 'number', unit: 'N', least: '1', most: null },
        ...{ good: [], choices: [], required: true }
      }
    ]
  });
  const { id } = await recordTest(
    world.sql,
    own,
    newKey(),
    {
      ...{ product: 'SGN', lot, instrument: '', sample: '', note: '' },
      results: [{ name: 'force', value: '2', unit: 'N' }]
    },
    new Date()
  );
  await signTest(world.sql, second, id);
  const [mark] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = ${lot}`;
  const issue = (signature?: string) =>
    issueCertificate(world.sql, own, {
      marks: [mark!.id],
      ...(signature ? { signature } : {})
    });
  expect(await refusalsOf(issue())).toEqual(['422 signature.missing signature']);
  const { signatures } = await issue(await signed('certificate', lot));
  expect(signatures).toMatchObject([{ means: 'approved by', by: 'Name of own' }]);

  const { number } = await openRecall(world.sql, own, newKey(), {
    ...{ title: 't', hazard: 'h', request: '', mock: false, marks: [mark!.id], why: '' }
  });
  const scope = (signature?: string) => decideScope(world.sql, own, number, signature);
  expect(await refusalsOf(scope())).toEqual(['422 signature.missing signature']);
  await scope(await signed('recall', number));
});

test('the database refuses a release and a certificate nobody signed, whoever writes them', async () => {
  const [mark] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = ${lot}`;
  const release = world.sql.begin(async (tx) => {
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES ('release', 'RAW', now(), ${own.personId}, 'r')
      RETURNING id
    `;
    await tx`
      INSERT INTO mark_change (event_id, mark_id, field, old_value, new_value)
      VALUES (${event!.id}, ${mark!.id}, 'state', 'usable', 'held')
    `;
  });
  await expect(release).rejects.toMatchObject({ constraint_name: 'signed_where_asked' });
  const certificate = world.sql.begin(async (tx) => {
    const [issued] = await tx<{ number: number }[]>`
      INSERT INTO certificate (content, issued_by) VALUES ('{}', ${own.personId}) RETURNING number
    `;
    await tx`INSERT INTO certificate_mark VALUES (${issued!.number}, ${mark!.id})`;
  });
  await expect(certificate).rejects.toMatchObject({ constraint_name: 'signed_where_asked' });
});

test('what was signed is not changed', async () => {
  await expect(world.sql`UPDATE signature SET reason = 'other'`).rejects.toThrow();
  await expect(world.sql`DELETE FROM signed`).rejects.toThrow();
});
