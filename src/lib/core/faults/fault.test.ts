import { describe, expect, it } from 'vitest';
import { plainPlan } from '../catalogue/plan.ts';
import { Faults } from './fault.ts';
import type { Answer } from './situations.ts';

const planWith = (expired: Answer) => ({
  answers: { ...plainPlan('lot').answers, expired }
});
const expired = (faults: Faults, answer: Answer, number = 'L1') =>
  faults.answer(planWith(answer), 'expired', 'lines[0]', 'It expired.', number);
const approval = (number: string | null, code = 'mark.expired') => ({
  ...{ code, number, reason: 'Quinn saw it', approval: 7 }
});

describe('a fault a plan answers', () => {
  it('is refused where the plan says stop, whatever reason and approval there are', () => {
    const faults = new Faults({ 'mark.expired': 'please' }, [approval('L1')]);
    expect(expired(faults, 'stop')).toBe(false);
    expect(faults.list[0]).not.toHaveProperty('answer');
    expect(faults.remarks).toEqual([]);
  });

  it('waits for a second person, whom a written reason does not stand for', () => {
    const faults = new Faults({ 'mark.expired': 'I say so myself' });
    expect(expired(faults, 'second person')).toBe(false);
    expect(faults.list).toMatchObject([{ answer: 'second person' }]);
  });

  it('goes on by the approval of this very number, and keeps whose it was', () => {
    const faults = new Faults({}, [approval('L1')]);
    expect(expired(faults, 'second person')).toBe(true);
    expect(expired(faults, 'second person', 'L2')).toBe(false);
    expect(faults.remarks).toMatchObject([
      { number: 'L1', answer: 'second person', reason: 'Quinn saw it', approval: 7 }
    ]);
    expect(faults.list).toMatchObject([{ number: 'L2', answer: 'second person' }]);
  });

  it('does not take an approval of another kind of fault, or a reason given before', () => {
    const before = { ...approval('L1'), approval: null };
    const faults = new Faults({}, [before, approval('L1', 'mark.held')]);
    expect(expired(faults, 'second person')).toBe(false);
  });

  it('goes on by a reason given before for this number alone', () => {
    const faults = new Faults({}, [{ ...approval('L1'), approval: null }]);
    expect(expired(faults, 'reason')).toBe(true);
    expect(expired(faults, 'reason', 'L2')).toBe(false);
    expect(faults.remarks).toMatchObject([{ answer: 'reason', approval: null }]);
  });
});
