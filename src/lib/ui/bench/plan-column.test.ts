import { describe, expect, it } from 'vitest';
import { askedAt } from '../../core/catalogue/ask.ts';
import { plainPlan, type MarkingPlan } from '../../core/catalogue/plan.ts';
import { columnOf } from './plan-column.ts';

const fact = (name: string, more: object = {}) => ({
  ...{ name, kind: 'text' as const, unit: '', required: false },
  ...{ least: null, most: null, choices: [], ...more }
});
const PLAN: MarkingPlan = {
  ...plainPlan('lot', { shelfLifeDays: 10 }),
  expires: 'entered',
  facts: [
    fact('certificate number', { required: true }),
    fact('net weight', { kind: 'number', unit: 'kg' }),
    fact('grade', { kind: 'choice', choices: ['A', 'B'] }),
    fact('sealed', { kind: 'yes/no' }),
    fact('pressed', { kind: 'date' })
  ]
};
const columns = new Map(
  askedAt(PLAN, 'receive').map((field) => [field.key, columnOf(PLAN, field)])
);

describe('a column of the number grid for what a plan asks', () => {
  it('is called as it is said, with its unit, and marked where it must be given', () => {
    expect(columns.get('lot')).toMatchObject({ label: 'Lot', kind: 'number', must: true });
    expect(columns.get('fact:net weight')).toMatchObject({
      ...{ label: 'Net weight, kg', kind: 'quantity', must: false }
    });
    expect(columns.get('fact:certificate number')).toMatchObject({ kind: 'text', must: true });
  });

  it('takes a month as its last day only where goods expire or are tested again', () => {
    expect(columns.get('expires')).toMatchObject({ kind: 'date', monthEnds: true, must: true });
    expect(columns.get('retest')?.monthEnds).toBe(true);
    expect(columns.get('made')?.monthEnds).toBeUndefined();
    expect(columns.get('fact:pressed')).not.toHaveProperty('monthEnds');
  });

  it('offers what there is to choose', () => {
    expect(columns.get('fact:grade')).toMatchObject({ kind: 'choice', choices: ['A', 'B'] });
    expect(columns.get('fact:sealed')).toMatchObject({ kind: 'choice', choices: ['yes', 'no'] });
  });

  it('may be called by the fact’s name alone in a pasted table', () => {
    expect(columns.get('fact:net weight')?.also).toEqual(['net weight']);
    expect(columns.get('lot')).not.toHaveProperty('also');
  });
});
