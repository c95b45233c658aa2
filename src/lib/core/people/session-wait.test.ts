import { describe, expect, test } from 'vitest';
import fc from 'fast-check';
import { mayDo, RIGHTS, ROLES } from './rights.ts';
import { quickRoles, waitOf, type SessionFacts } from './session-wait.ts';

const FREE: SessionFacts = {
  roles: ['receiver'],
  hasFactor: false,
  factorShown: false,
  othersPassword: false,
  locked: false,
  factorRoles: []
};

describe('what a session waits for', () => {
  test.each<[string, Partial<SessionFacts>, ReturnType<typeof waitOf>]>([
    ['nothing', {}, null],
    ['its second factor', { hasFactor: true }, 'second factor'],
    ['nothing once that is shown', { hasFactor: true, factorShown: true }, null],
    ['somebody to come back', { locked: true }, 'unlocking'],
    ['a password of its own', { othersPassword: true }, 'new password'],
    ['a factor, where its role needs one', { factorRoles: ['receiver'] }, 'factor set-up'],
    [
      'nothing, where the identity provider saw one',
      { factorRoles: ['receiver'], factorShown: true },
      null
    ],
    ['nothing, where another role needs one', { factorRoles: ['administrator'] }, null]
  ])('%s', (_, facts, wait) => expect(waitOf({ ...FREE, ...facts })).toBe(wait));

  test('whoever has a factor never goes on without it', () =>
    fc.assert(
      fc.property(fc.boolean(), fc.boolean(), fc.subarray([...ROLES]), (locked, others, roles) => {
        const facts = { ...FREE, locked, othersPassword: others, factorRoles: roles };
        expect(waitOf({ ...facts, hasFactor: true })).toBe('second factor');
      })
    ));
});

test('who came back by badge decides and approves nothing, whatever their roles', () => {
  const left = quickRoles(ROLES);
  expect(left).toEqual(['receiver', 'builder', 'shipper', 'service']);
  for (const right of ['approve', 'decide.quality', 'edit.people', 'recall', 'amend'] as const)
    expect(mayDo(left, right)).toBe(false);
  expect(quickRoles(['auditor', 'administrator', 'quality'])).toEqual([]);
  expect(quickRoles(['shipper', 'quality'])).toEqual(['shipper']);
});

test('a coordinator back by badge may what the floor and the dock may, and nothing a coordinator may not', () => {
  const left = quickRoles(['coordinator']);
  expect(left).toEqual(['receiver', 'builder', 'shipper', 'service']);
  for (const right of RIGHTS) {
    const may = mayDo(left, right);
    if (may) expect(mayDo(['coordinator'], right), right).toBe(true);
  }
});
