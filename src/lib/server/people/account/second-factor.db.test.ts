import { Secret } from 'otpauth';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { refusalsOf } from '../../testing/caught.ts';
import { codeAt, makeAccounts, SITE, STEP_MS, type Accounts } from '../testing/accounts.ts';
import { readPeople } from '../write-people.ts';
import { putAccessSettings } from './access-settings.ts';
import { boxed } from './boxed.ts';
import { readAccount } from './read-account.ts';
import { showFactor } from './second-factor.ts';
import {
  confirmTimeCode,
  newRecoveryCodes,
  takeFactorsAway,
  withoutTimeCode
} from './set-up-factor.ts';
import { offerTimeCode, takeTimeCode } from './time-codes.ts';

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

describe('time codes', () => {
  it('count once a code was typed, and are asked for at every sign-in after that', async () => {
    const login = await person();
    const self = await session(login);
    const offer = await offerTimeCode(world.sql, self);
    expect(offer.uri).toContain(`secret=${offer.secret}`);
    expect((await session(login)).wait).toBeNull();
    expect(await refusalsOf(confirmTimeCode(world.sql, self, '000000'))).toEqual([
      '422 right.missing code'
    ]);
    await confirmTimeCode(world.sql, self, codeAt(offer.secret));
    expect((await again(self.secret))!.wait).toBeNull();
    const later = await session(login);
    expect(later.wait).toBe('second factor');
    const next = codeAt(offer.secret, Date.now() + STEP_MS);
    const { secret } = await showFactor(world.sql, later, SITE, '10.7.0.1', { code: next });
    expect((await again(secret))!.wait).toBeNull();
    expect(await again(later.secret)).toBeNull();
  });

  it('are taken once each, also when two send one at the same time', async () => {
    const login = await person();
    const { secret } = await withTimeCodes(await session(login));
    const next = codeAt(secret, Date.now() + STEP_MS);
    const sessions = await Promise.all([session(login), session(login), session(login)]);
    const shown = await Promise.allSettled(
      sessions.map((one) => showFactor(world.sql, one, SITE, '10.7.0.1', { code: next }))
    );
    expect(shown.filter((one) => one.status === 'fulfilled').length).toBe(1);
  });

  it('are not guessed: six tries, however many are sent', async () => {
    const login = await person();
    await withTimeCodes(await session(login));
    const self = await session(login);
    const tries = Array.from({ length: 30 }, (_, one) =>
      refusalsOf(
        showFactor(world.sql, self, SITE, '10.7.0.1', { code: String(one).padStart(6, '0') })
      )
    );
    const answers = (await Promise.all(tries)).flat();
    expect(answers.filter((one) => one.startsWith('422')).length).toBe(6);
    expect(answers.filter((one) => one.startsWith('429')).length).toBe(24);
  });

  it('are kept locked: neither the database nor another person’s row opens them', async () => {
    const [one, two] = [await session(await person()), await session(await person())];
    const { secret } = await offerTimeCode(world.sql, one);
    await offerTimeCode(world.sql, two);
    const [kept] = await world.sql<{ secret: Uint8Array }[]>`
      SELECT secret FROM time_code WHERE person_id = ${one.personId}
    `;
    const raw = Buffer.from(Secret.fromBase32(secret).buffer);
    expect(Buffer.from(kept!.secret).includes(raw)).toBe(false);
    await world.owner`
      UPDATE time_code SET secret = ${kept!.secret} WHERE person_id = ${two.personId}
    `;
    const moved = world.sql.begin((tx) => takeTimeCode(tx, two.personId, codeAt(secret), true));
    expect(await moved).toBe(false);
  });

  // The SHA-1 rows of RFC 6238, appendix B, cut to six digits (from memory; the reference library agrees).
  it.each([
    [59, '287082'],
    [1_111_111_109, '081804'],
    [1_234_567_890, '005924'],
    [2_000_000_000, '279037'],
    [20_000_000_000, '353130']
  ])('at %d seconds the standard’s secret gives %s', async (seconds, code) => {
    const self = await session(await person());
    await offerTimeCode(world.sql, self);
    const standard = boxed(Buffer.from('12345678901234567890'), self.personId);
    await world.owner`
      UPDATE time_code SET secret = ${standard} WHERE person_id = ${self.personId}
    `;
    const take = (typed: string, at: number) =>
      world.sql.begin((tx) => takeTimeCode(tx, self.personId, typed, true, at));
    expect(await take(code, (seconds + 95) * 1000)).toBe(false);
    expect(await take(code, seconds * 1000)).toBe(true);
  });
});

describe('recovery codes', () => {
  it('stand in once each, however they are typed; new ones end the old', async () => {
    const login = await person();
    const first = await session(login);
    const { recovery } = await withTimeCodes(first);
    expect(recovery).toHaveLength(10);
    const typed = recovery[0]!.toLowerCase().replaceAll('-', ' ');
    await showFactor(world.sql, await session(login), SITE, '10.7.0.1', { code: typed });
    const twice = showFactor(world.sql, await session(login), SITE, '10.7.0.1', { code: typed });
    expect(await refusalsOf(twice)).toEqual(['422 right.missing code']);
    expect((await readAccount(world.sql, first)).factors.recovery).toBe(9);
    const renewed = await newRecoveryCodes(world.sql, first);
    const old = showFactor(world.sql, await session(login), SITE, '10.7.0.1', {
      code: recovery[1]!
    });
    expect(await refusalsOf(old)).toEqual(['422 right.missing code']);
    await showFactor(world.sql, await session(login), SITE, '10.7.0.1', { code: renewed[0]! });
  });

  it('go with the last factor, and are not made without one', async () => {
    const self = await session(await person());
    expect(await refusalsOf(newRecoveryCodes(world.sql, self))).toEqual(['422 right.missing code']);
    await withTimeCodes(self);
    await withoutTimeCode(world.sql, self);
    const { factors } = await readAccount(world.sql, self);
    expect(factors).toEqual({ timeCode: false, passkeys: 0, recovery: 0 });
  });
});

describe('whose device is lost', () => {
  it('an administrator takes the factors away, never their own; sessions end', async () => {
    const admin = await session(await person(['administrator']));
    const login = await person();
    const self = await session(login);
    await withTimeCodes(self);
    const seen = (await readPeople(world.sql)).find((one) => one.login === login);
    expect(seen!.factor).toBe(true);
    await takeFactorsAway(world.sql, admin, login);
    expect(await again(self.secret)).toBeNull();
    expect((await session(login)).wait).toBeNull();
    const own = takeFactorsAway(world.sql, admin, admin.login);
    expect(await refusalsOf(own)).toEqual(['422 right.missing code']);
  });
});

describe('a factor demanded of a role', () => {
  it('comes before anything else, for that role and no other', async () => {
    await putAccessSettings(world.sql, { factorRoles: ['administrator'], lockMinutes: 30 });
    const admin = await session(await person(['administrator', 'receiver']));
    expect(admin.wait).toBe('factor set-up');
    await withTimeCodes(admin);
    expect((await again(admin.secret))!.wait).toBeNull();
    expect((await session(await person(['receiver']))).wait).toBeNull();
  });
});
