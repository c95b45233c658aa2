import type { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { Problem } from '../kernel/problem.ts';

/** Shortest password taken. Length protects; rules about signs do not. */
export const SHORTEST_PASSWORD = 12;
/** More of it is not looked at when it is judged: what is longer is not guessed. */
const JUDGED = 60;
/** The least of the estimator's five grades, 0 to 4, that is taken: not guessed online in years. */
const LEAST_GRADE = 3;
/** A part of a name so long makes a password guessable. */
const TELLING = 4;

let estimator: Promise<ZxcvbnFactory> | null = null;

/** The estimator with its list of passwords that became known, read when first asked for. */
async function makeEstimator(): Promise<ZxcvbnFactory> {
  const [{ ZxcvbnFactory }, { dictionary, adjacencyGraphs }] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common')
  ]);
  return new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs, maxLength: JUDGED });
}

/** Words of a person that their password must not be made of, small. */
const ownWords = (person: { login: string; name: string }): string[] =>
  [person.login, ...person.name.split(/[\s.'-]+/)]
    .map((word) => word.toLowerCase())
    .filter((word) => word.length >= TELLING);

/**
 * What is wrong with a new password; null where it may be taken: at least twelve characters, none
 * that is known or easily guessed, not made of whose it is.
 */
export async function passwordFault(
  password: string,
  person: { login: string; name: string }
): Promise<string | null> {
  if (password.length < SHORTEST_PASSWORD)
    return `A password has at least ${SHORTEST_PASSWORD} characters. A few plain words make a good one.`;
  const own = ownWords(person).find((word) => password.toLowerCase().includes(word));
  if (own !== undefined)
    return `The password must not have “${own}” in it, which is yours. Take a few words that have nothing to do with you.`;
  estimator ??= makeEstimator();
  const { score } = (await estimator).check(password.slice(0, JUDGED), ['earmark']);
  return score >= LEAST_GRADE
    ? null
    : 'This password is known or easily guessed. Take a few plain words that do not belong together.';
}

/** @throws Problem 422 naming the field, where a new password may not be taken */
export async function requireGoodPassword(
  password: string,
  person: { login: string; name: string }
): Promise<void> {
  const message = await passwordFault(password, person);
  if (message === null) return;
  throw new Problem(422, 'The password is too weak', [
    { code: 'number.malformed', path: 'password', message }
  ]);
}
