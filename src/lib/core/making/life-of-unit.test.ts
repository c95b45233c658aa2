import { describe, expect, it } from 'vitest';
import type { Making } from './as-built.ts';
import { countingMakings, type PartChange, type UnitHistory } from './life-of-unit.ts';

const UNIT = 1;
const PUMP = 10;
const NEW_PUMP = 11;
const said = { document: 'WO-1', at: '2026-03-01T09:00:00Z', who: 'tomas' };

const made = (event: number, inputs: number[], outputs = [UNIT], kind = 'build'): Making => ({
  ...{ ...said, id: event, shared: false, event, kind, bill: null },
  inputs: inputs.map((mark) => ({ mark, quantity: '1', position: null })),
  outputs: outputs.map((mark) => ({ mark, quantity: '1' }))
});
const change = (event: number, part: number, quantity: string): PartChange => ({
  ...{ ...said, event, kind: 'fit', host: UNIT, part, quantity, position: null }
});
const history = (given: Partial<UnitHistory>): UnitHistory => ({
  ...{ makings: [], changes: [], apart: new Map(), single: () => true, birthOf: () => 1 },
  ...given
});
/** What counts, as `event: what went in`. */
const counting = (of: UnitHistory, asked: 'built' | 'is'): string[] =>
  countingMakings(of, asked).map(
    ({ event, inputs }) =>
      `${event}: ${inputs.map(({ mark, quantity }) => `${mark} × ${quantity}`).join(', ')}`
  );

describe('what counts of a unit’s life', () => {
  it('is its build; as it is, also what was put in and taken out since', () => {
    const of = history({
      makings: [made(1, [PUMP])],
      changes: [change(2, PUMP, '-1'), change(3, NEW_PUMP, '1')]
    });
    expect(counting(of, 'built')).toEqual(['1: 10 × 1']);
    expect(counting(of, 'is')).toEqual(['1: 10 × 1', '2: 10 × -1', '3: 11 × 1']);
  });

  it('is its last build where it was taken apart and built again', () => {
    const of = history({
      makings: [made(1, [PUMP]), made(5, [NEW_PUMP])],
      changes: [change(2, PUMP, '-1'), change(6, PUMP, '1')],
      apart: new Map([[UNIT, [4]]])
    });
    expect(counting(of, 'built')).toEqual(['5: 11 × 1']);
    expect(counting(of, 'is')).toEqual(['5: 11 × 1', '6: 10 × 1']);
  });

  it('is nothing as it is while it is apart, and its build still what it was built of', () => {
    const of = history({ makings: [made(1, [PUMP])], apart: new Map([[UNIT, [4]]]) });
    expect(counting(of, 'is')).toEqual([]);
    expect(counting(of, 'built')).toEqual(['1: 10 × 1']);
  });

  it('is no part that came out of another unit: the teardown did not make it', () => {
    const teardown = made(4, [UNIT], [PUMP], 'teardown');
    const of = (birth: number) => history({ makings: [teardown], birthOf: () => birth });
    expect(counting(of(2), 'built')).toEqual([]);
    // What nobody knew of before is born there.
    expect(counting(of(4), 'built')).toEqual(['4: 1 × 1']);
  });

  it('of a lot is all that was ever made of it', () => {
    const of = history({
      ...{ makings: [made(1, [PUMP]), made(5, [NEW_PUMP])], single: () => false },
      apart: new Map([[UNIT, [4]]])
    });
    expect(counting(of, 'is')).toEqual(['1: 10 × 1', '5: 11 × 1']);
  });

  it('of a making with other outputs counts for those alive, and keeps the shares of all', () => {
    const SISTER = 2;
    const of = history({
      makings: [made(1, [PUMP], [UNIT, SISTER])],
      apart: new Map([[UNIT, [4]]])
    });
    const [making] = countingMakings(of, 'is');
    expect(making!.outputs).toHaveLength(2);
    expect(making!.counts!.map(({ mark }) => mark)).toEqual([SISTER]);
  });
});
