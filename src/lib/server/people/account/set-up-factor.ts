import { numberKey } from '../../../core/numbers/number.ts';
import type { Actor } from '../../kernel/actor.ts';
import type { Sql, Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { attemptSucceeded, mayAttempt, sayWait } from '../attempts.ts';
import { dropPasskey, keepPasskey, type Site } from './passkeys.ts';
import { renewRecoveryCodes } from './recovery-codes.ts';
import { factorsOf } from './second-factor.ts';
import type { Self } from './self.ts';
import { dropTimeCode, takeTimeCode } from './time-codes.ts';

/** Recovery codes where they were made with it; told once. */
export interface FactorAdded {
  recovery: string[];
}

/**
 * A factor was added in this session, which therefore has shown it. With the first one come recovery
 * codes.
 */
async function added(tx: Tx, { personId, sessionId }: Self): Promise<FactorAdded> {
  await tx`UPDATE session SET factor_at = clock_timestamp() WHERE id = ${sessionId}`;
  const { recovery } = await factorsOf(tx, personId);
  return { recovery: recovery > 0 ? [] : await renewRecoveryCodes(tx, personId) };
}

/**
 * The first code of the secret that was offered: from now on time codes count.
 * @throws Problem 422 where it is not right, 429 after too many
 */
export async function confirmTimeCode(sql: Sql, self: Self, code: string): Promise<FactorAdded> {
  const may = await mayAttempt(sql, self.login, 'time code');
  if (!may.ok) throw refusal(429, `Too many attempts. Try again ${sayWait(may.wait)}.`);
  const done = await sql.begin(async (tx) => {
    const isRight = await takeTimeCode(tx, self.personId, code.replace(/\s/g, ''), true);
    return isRight ? added(tx, self) : null;
  });
  if (!done)
    throw refusal(
      422,
      'That is not the code it shows now. Look at its clock, and type the next one.'
    );
  await attemptSucceeded(sql, self.login, 'time code');
  return done;
}

/** @throws Problem 422 where the passkey was not made for this */
export const addPasskey = (
  sql: Sql,
  self: Self,
  site: Site,
  given: { name: string; response: unknown }
): Promise<FactorAdded> =>
  sql.begin(async (tx) => {
    await keepPasskey(tx, self, site, given);
    return added(tx, self);
  }) as Promise<FactorAdded>;

export const withoutTimeCode = (sql: Sql, { personId }: Self): Promise<void> =>
  lessOne(sql, personId, (tx) => dropTimeCode(tx, personId));

export const withoutPasskey = (sql: Sql, { personId }: Self, id: number): Promise<void> =>
  lessOne(sql, personId, (tx) => dropPasskey(tx, personId, id));

/** With the last factor its recovery codes go too: they would stand in for nothing. */
async function lessOne(sql: Sql, personId: number, drop: (tx: Tx) => Promise<void>): Promise<void> {
  await sql.begin(async (tx) => {
    await drop(tx);
    const { timeCode, passkeys } = await factorsOf(tx, personId);
    if (!timeCode && passkeys === 0)
      await tx`DELETE FROM recovery_code WHERE person_id = ${personId}`;
  });
}

/**
 * Ten new recovery codes in place of the old ones.
 * @throws Problem 422 without a factor they could stand in for
 */
export async function newRecoveryCodes(sql: Sql, { personId }: Self): Promise<string[]> {
  const { timeCode, passkeys } = await factorsOf(sql, personId);
  if (!timeCode && passkeys === 0)
    throw refusal(422, 'Set up time codes or a passkey first: recovery codes stand in for them.');
  return (await sql.begin((tx) => renewRecoveryCodes(tx, personId))) as string[];
}

/**
 * All factors of a person are taken away, where their device is lost; they are signed out
 * everywhere. Nobody does it for themselves: an account left open would be enough.
 * @throws Problem 404, 422
 */
export async function takeFactorsAway(sql: Sql, actor: Actor, login: string): Promise<void> {
  await sql.begin(async (tx) => {
    const [person] = await tx<{ id: number }[]>`
      SELECT id FROM person WHERE upper(login) = ${numberKey(login)} FOR UPDATE
    `;
    if (!person) throw new Problem(404, 'There is no such person', []);
    if (person.id === actor.personId)
      throw refusal(422, 'Have another administrator do it, or take them away on your own page.');
    await tx`DELETE FROM time_code WHERE person_id = ${person.id}`;
    await tx`DELETE FROM passkey WHERE person_id = ${person.id}`;
    await tx`DELETE FROM recovery_code WHERE person_id = ${person.id}`;
    await tx`DELETE FROM session WHERE person_id = ${person.id}`;
  });
}

const refusal = (status: number, message: string): Problem =>
  new Problem(status, 'The second factor was not changed', [
    { code: 'right.missing', path: 'code', message }
  ]);
