import { describe, expect, it } from 'vitest';
import {
  drillScore,
  hindrances,
  scopeChange,
  standingOf,
  type AnswerRow,
  type ScopeRow
} from './reconcile.ts';

const scope: ScopeRow[] = [
  { partner: 'A', mark: 1, event: 10, quantity: '4' },
  { partner: 'A', mark: 2, event: 11, quantity: '1' },
  { partner: 'B', mark: 1, event: 12, quantity: '2.5' }
];
const answer = (
  partner: string,
  mark: number,
  outcome: AnswerRow['outcome'],
  quantity: string
): AnswerRow => ({ partner, mark, outcome, quantity });

describe('the standing of a recall', () => {
  it('adds up by customer to 100 % and names what is open', () => {
    const standing = standingOf(
      scope,
      [
        answer('A', 1, 'returned', '3'),
        answer('A', 1, 'destroyed', '1'),
        answer('A', 2, 'written off', '1'),
        answer('B', 1, 'returned', '0.5')
      ],
      new Set(['A'])
    );
    expect(standing.customers).toMatchObject([
      {
        partner: 'A',
        marks: 2,
        had: '5',
        returned: '3',
        destroyed: '1',
        writtenOff: '1',
        open: '0',
        part: 1,
        notified: true,
        answered: true
      },
      { partner: 'B', had: '2.5', open: '2', part: 0.2, notified: false }
    ]);
    expect(standing).toMatchObject({ had: '7.5', open: '2', returned: '3.5' });
    expect(standing.part).toBeCloseTo(5.5 / 7.5, 12);
  });
  it('is complete where nobody has anything', () =>
    expect(standingOf([], [], new Set())).toMatchObject({
      had: '0',
      open: '0',
      part: 1,
      customers: []
    }));
  it('sees what was shipped since, and what lies here anew', () => {
    const frozen = { customers: scope.slice(0, 2), here: new Set([5]), marks: new Set([1, 2, 5]) };
    expect(scopeChange(frozen, { customers: scope, here: new Set([1, 5, 9]) })).toEqual({
      shipments: [scope[2]],
      here: [9]
    });
  });
  it('says everything that hinders closing, and nothing of goods in a drill', () => {
    const standing = standingOf(scope, [], new Set());
    expect(
      hindrances(standing, { shipments: [scope[0]!], here: [] }, { usable: 2 }, 1, false)
    ).toEqual([
      '7.5 with 2 of 2 customers are not accounted for',
      '1 shipment has left since the scope was decided',
      '2 lots and serials in the scope still may be used',
      'one of two signatures is missing'
    ]);
    expect(hindrances(standing, { shipments: [], here: [] }, { usable: 2 }, 2, true)).toEqual([]);
  });
});

describe('the score of a drill', () => {
  // Practice of certification schemes (from memory): everything is found within four hours.
  it('is passed when all was found in time', () =>
    expect(drillScore([{ in: '100', open: '0' }], 200, 240)).toEqual({
      found: '100',
      inTime: true,
      passed: true
    }));
  it('is failed by a gram or a minute', () => {
    expect(
      drillScore(
        [
          { in: '100', open: '-0.5' },
          { in: '100', open: '0' }
        ],
        10,
        240
      )
    ).toEqual({ found: '99.75', inTime: true, passed: false });
    expect(drillScore([{ in: '3', open: '0' }], 241, 240)).toMatchObject({
      inTime: false,
      passed: false
    });
    expect(drillScore([], null, 240)).toEqual({ found: '100', inTime: null, passed: null });
  });
});
