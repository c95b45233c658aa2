import { describe, expect, test } from 'vitest';
import type { Limit, Spec } from '../../core/quality/spec.ts';
import { sayLimit, saySpec } from './say-spec.ts';
import { blankLimit, specBody, specForm } from './spec-form.ts';

const FORCE: Limit = {
  ...{ name: 'force', kind: 'number', unit: 'N', least: '150', most: '190' },
  ...{ good: [], choices: [], required: true }
};
const LEAK: Limit = {
  ...{ name: 'leak test', kind: 'choice', unit: '', least: null, most: null },
  ...{ good: ['tight'], choices: ['tight', 'damp', 'loose'], required: false }
};
const SPEC: Spec = {
  ...{ limits: [FORCE, LEAK], holdOnFail: true, retestDays: 365, sampling: '3 of each lot' }
};

describe('limits in sentences', () => {
  test('say what each characteristic must be', () => {
    expect(sayLimit(FORCE)).toBe('force is from 150 to 190 N; it must be tested.');
    expect(sayLimit({ ...FORCE, most: null })).toBe('force is at least 150 N; it must be tested.');
    expect(sayLimit({ ...FORCE, least: null })).toBe('force is at most 190 N; it must be tested.');
    expect(sayLimit(LEAK)).toBe(
      'leak test is tight, damp or loose, and conforms as tight; it may be tested.'
    );
    const seal: Limit = { ...LEAK, kind: 'yes/no', choices: [], good: ['yes'] };
    expect(sayLimit(seal)).toBe('leak test is yes or no, and conforms as yes; it may be tested.');
  });

  test('say what follows from a test, of the product and not of a customer', () => {
    expect(saySpec(SPEC, false).slice(2)).toEqual([
      'A result outside holds the mark at once.',
      'It is tested again 365 days after a test.',
      'Sample: 3 of each lot.'
    ]);
    expect(saySpec(SPEC, true)).toHaveLength(2);
    expect(saySpec(null, true)).toEqual(['They have no limits of their own: the product’s count.']);
  });
});

describe('limits that are typed', () => {
  test('are sent as they stand where nothing is changed', () =>
    expect(specBody(specForm(SPEC))).toEqual(SPEC));

  test('begin with a blank line, which is none', () => {
    expect(specForm().limits).toEqual([blankLimit()]);
    expect(specBody(specForm())).toMatchObject({ limits: [] });
  });

  test('go as they were typed where they are no number', () => {
    const form = { ...specForm(SPEC), retestDays: 'a year' };
    expect(specBody(form)).toMatchObject({ retestDays: 'a year' });
  });
});
