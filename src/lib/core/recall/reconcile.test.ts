import { describe, expect, it } from 'vitest';
import { drillScore } from './drill-score.ts';
import { hindrances, scopeChange } from './reconcile.ts';
import { standingOf, type AnswerRow, type ScopeRow } from './standing.ts';

const scope: ScopeRow[] = [
  { partner: 'A', mark: 1, event: 10, unit: 'kg', quantity: '4', back: '0' },
  { partner: 'A', mark: 2, event: 11, unit: 'each', quantity: '1', back: '0' },
  { partner: 'B', mark: 1, event: 12, unit: 'kg', quantity: '2.5', back: '0' }
];
const answer = (
  partner: string,
  mark: number,
  outcome: AnswerRow['outcome'],
  quantity: string
): AnswerRow => ({ partner, mark, outcome, quantity });
const kg = (quantity: string) => ({ unit: 'kg', quantity });
const each = (quantity: string) => ({ unit: 'each', quantity });
const nobody = new Set<string>();

describe('the standing of a recall', () => {
  it('adds up by customer and measure, kilograms and pieces each for themselves', () => {
    const standing = standingOf(
      scope.map((row) => (row.event === 10 ? { ...row, back: '3' } : row)),
      [
        answer('A', 1, 'returned', '3'),
        answer('A', 1, 'destroyed', '1'),
        answer('A', 2, 'written off', '1'),
        answer('B', 1, 'returned', '0.5')
      ],
      new Set(['A']),
      false
    );
    expect(standing.customers).toMatchObject([
      {
        ...{ partner: 'A', marks: 2, had: [kg('4'), each('1')], returned: [kg('3')] },
        ...{ reported: [], destroyed: [kg('1')], writtenOff: [each('1')], open: [] },
        ...{ part: 1, notified: true, answered: true }
      },
      { partner: 'B', had: [kg('2.5')], reported: [kg('0.5')], open: [kg('2')], notified: false }
    ]);
    expect(standing).toMatchObject({ had: [kg('6.5'), each('1')], open: [kg('2')] });
  });

  it('counts as returned only what a booking brought back; the rest is said to be', () => {
    const back = scope.map((row) => (row.event === 10 ? { ...row, back: '1' } : row));
    const told = [answer('A', 1, 'returned', '4')];
    const [a] = standingOf(back, told, nobody, false).customers;
    // By hand: of 4 kg one came back and three are on their word; the one each is open.
    expect(a).toMatchObject({ returned: [kg('1')], reported: [kg('3')], open: [each('1')] });
    expect(a!.shares).toEqual({
      ...{ returned: 0.125, reported: 0.375, destroyed: 0, writtenOff: 0, open: 0.5 }
    });
    expect(a!.part).toBe(0.125);
  });

  it('counts what came back without a word, and never below nothing open', () => {
    const back = scope.map((row) => ({ ...row, back: row.quantity }));
    const standing = standingOf(back, [answer('A', 1, 'destroyed', '1')], nobody, false);
    expect(standing).toMatchObject({ open: [], reported: [], returned: [kg('6.5'), each('1')] });
  });

  it('takes the word for it in a drill, where nothing comes back', () => {
    const told = [answer('A', 1, 'returned', '4'), answer('A', 2, 'returned', '1')];
    expect(standingOf(scope.slice(0, 2), told, nobody, true).part).toBe(1);
    expect(standingOf(scope.slice(0, 2), told, nobody, false).part).toBe(0);
  });

  it('is complete where nobody has anything', () =>
    expect(standingOf([], [], nobody, false)).toMatchObject({
      ...{ had: [], open: [], part: 1, customers: [] }
    }));

  it('sees what was shipped since, and what lies here anew', () => {
    const frozen = { customers: scope.slice(0, 2), here: new Set([5]), marks: new Set([1, 2, 5]) };
    expect(scopeChange(frozen, { customers: scope, here: new Set([1, 5, 9]) })).toEqual({
      shipments: [scope[2]],
      here: [9]
    });
  });

  it('says everything that hinders closing, and nothing of goods in a drill', () => {
    const standing = standingOf(scope, [answer('B', 1, 'returned', '1')], nobody, false);
    expect(
      hindrances(standing, { shipments: [scope[0]!], here: [] }, { usable: 2 }, 1, false)
    ).toEqual([
      '5.5 kg and 1 each with 2 of 2 customers are not accounted for',
      '1 kg of 1 of 2 customers are said to be returned and not come in',
      '1 shipment has left since the scope was decided',
      '2 lots and serials in the scope still may be used',
      'one of two signatures is missing'
    ]);
    expect(hindrances(standing, { shipments: [], here: [] }, { usable: 2 }, 2, true)).toEqual([]);
  });
});

describe('the score of a drill', () => {
  const closes = [{ in: '100', open: '0' }];
  const drill = {
    ...{ balances: closes, scope: [], answers: [], decided: 200, elapsed: 200 },
    ...{ closed: false, target: 240 }
  };
  const told = (mark: number, quantity: string, minutes: number) => ({
    ...answer('A', mark, 'returned', quantity),
    minutes
  });
  const had = scope.slice(0, 2);

  // Practice of certification schemes (from memory): everything is found within four hours.
  it('is passed when all was found in time, and nobody has anything of it', () =>
    expect(drillScore(drill)).toEqual({
      found: '100',
      answered: '100',
      inTime: true,
      passed: true
    }));

  it('is failed by a gram or a minute', () => {
    const balances = [{ in: '100', open: '-0.5' }, ...closes];
    expect(drillScore({ ...drill, balances, closed: true })).toMatchObject({
      ...{ found: '99.75', inTime: true, passed: false }
    });
    expect(drillScore({ ...drill, decided: 241, elapsed: 241 })).toMatchObject({
      ...{ inTime: false, passed: false }
    });
  });

  it('is not passed by opening a scope: its customers have to answer', () => {
    const opened = { ...drill, scope: had, decided: 1, elapsed: 1 };
    expect(drillScore(opened)).toMatchObject({ answered: '0', inTime: true, passed: null });
    const half = { ...opened, answers: [told(1, '4', 30)], elapsed: 60 };
    expect(drillScore(half)).toMatchObject({ answered: '50', passed: null });
    expect(drillScore({ ...half, elapsed: 241 })).toMatchObject({ answered: '50', passed: false });
  });

  it('counts what was answered in time, and no answer that came late', () => {
    const all = { ...drill, scope: had, answers: [told(1, '4', 30), told(2, '1', 240)] };
    expect(drillScore(all)).toMatchObject({ answered: '100', passed: true });
    const late = { ...all, answers: [told(1, '4', 30), told(2, '1', 241)], elapsed: 300 };
    expect(drillScore(late)).toMatchObject({ answered: '50', passed: false });
  });

  it('is never rounded up to a hundred', () => {
    const almost = { ...drill, scope: had.slice(0, 1), answers: [told(1, '3.99999', 30)] };
    expect(drillScore(almost)).toMatchObject({ answered: '99.99', passed: null });
  });

  it('runs while nothing is decided', () =>
    expect(drillScore({ ...drill, decided: null, elapsed: 10 })).toEqual({
      ...{ found: '100', answered: '0', inTime: null, passed: null }
    }));
});
