import { expect, test } from 'vitest';
import { passwordFault } from './password-rules.ts';

const WILF = { login: 'wilf', name: 'Wilfred Oduya-Stark' };

test.each([
  'correct horse battery',
  'seven grey herons at noon',
  'k8#Vt2!pQz90',
  'wil horse battery glue'
])('%s may be taken', async (password) => {
  expect(await passwordFault(password, WILF)).toBeNull();
});

// The common ones are from public lists of passwords that became known, as the estimator ships them.
test.each([
  ['eleven char', /at least 12/],
  ['password1234', /easily guessed/],
  ['qwertyuiop123', /easily guessed/],
  ['trustno1trustno1', /easily guessed/],
  ['aaaaaaaaaaaaaaaaaaaaaaaa', /easily guessed/],
  ['earmarkearmark', /easily guessed/],
  ['a horse named Wilf', /“wilf”/],
  ['STARK winter glue tape', /“stark”/]
])('%s may not', async (password, why) => {
  expect(await passwordFault(password, WILF)).toMatch(why);
});

test('a thousand characters are judged by what can be looked at in a moment', async () => {
  expect(await passwordFault('ab1'.repeat(333), WILF)).toMatch(/easily guessed/);
  expect(await passwordFault('correct horse battery '.repeat(40), WILF)).toBeNull();
});
