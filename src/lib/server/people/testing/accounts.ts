import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Secret, TOTP } from 'otpauth';
import type { Role } from '../../../core/people/rights.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import type { Self } from '../account/self.ts';
import { confirmTimeCode } from '../account/set-up-factor.ts';
import { offerTimeCode } from '../account/time-codes.ts';
import { actorOfSession, signIn } from '../sign-in.ts';
import { putPerson } from '../write-people.ts';

/** What the people of these tests sign in with. */
export const PASSWORD = 'correct horse battery';
/** Where passkeys would be asked for. */
export const SITE = { origin: 'http://localhost', host: 'localhost' };
/** So long a time code stands. */
export const STEP_MS = 30_000;

/** A world whose people have accounts of their own. */
export interface Accounts {
  world: World;
  /** Somebody new, by their sign-in. */
  person: (roles?: Role[]) => Promise<string>;
  /** Signs somebody in; the secret is that of the cookie. */
  session: (login: string, password?: string) => Promise<Self & { secret: string }>;
  /** Who a cookie belongs to now. */
  again: (secret: string) => Promise<Self | null>;
  /** Sets time codes up; their secret and the recovery codes. */
  withTimeCodes: (self: Self) => Promise<{ secret: string; recovery: string[] }>;
}

export async function makeAccounts(): Promise<Accounts> {
  const key = join(mkdtempSync(join(tmpdir(), 'earmark-key-')), 'factor-key');
  writeFileSync(key, '00'.repeat(32));
  process.env.EARMARK_FACTOR_KEY = key;
  const world = await makeWorld();
  let n = 0;
  return {
    world,
    async person(roles = ['receiver']) {
      const login = `q${++n}`;
      const asked = { name: `Quill ${n}`, roles, active: true, password: PASSWORD };
      await putPerson(world.sql, null, login, asked);
      return login;
    },
    async session(login, password = PASSWORD) {
      const address = `10.7.0.${++n % 250}`;
      const signedIn = await signIn(world.sql, login, password, address, 'a browser');
      if (!signedIn.ok) throw new Error(signedIn.why);
      const { actor, secret } = signedIn;
      return { ...actor, sessionId: actor.sessionId!, secret };
    },
    again: async (secret) => (await actorOfSession(world.sql, secret)) as Self | null,
    async withTimeCodes(self) {
      const { secret } = await offerTimeCode(world.sql, self);
      const { recovery } = await confirmTimeCode(world.sql, self, codeAt(secret));
      return { secret, recovery };
    }
  };
}

/** The time code a program shows for a secret. */
export const codeAt = (secret: string, at = Date.now()): string =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });
