import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import type { HostFitting } from '../ledger/request.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { decideFitting, fittingKind } from './fit.ts';

// Unit U1 of SER was built with cylinder C1 and 0.25 of lot L1; C2 and more of L1 lie at A.
const q = quantity;
const world = (more: Parameters<typeof snapshot>[0] = {}) =>
  snapshot({
    marks: [
      { id: 21, product: 'SER', number: 'U1' },
      { id: 31, product: 'SIL', number: 'C1' },
      { id: 32, product: 'SIL', number: 'C2' },
      { id: 33, product: 'SIL', number: 'C3' },
      { id: 11, product: 'LOT', number: 'L1' }
    ],
    stock: [
      [21, 'A', '1'],
      [32, 'A', '1'],
      [11, 'A', '3']
    ],
    asBuilt: new Map([
      [
        21,
        [
          { mark: 31, wentIn: q(1), left: q(1), made: q(1) },
          { mark: 11, wentIn: q('0.25'), left: q('0.25'), made: q(1) }
        ]
      ]
    ]),
    ...more
  });
const book = (unit: Partial<HostFitting>, more: Parameters<typeof snapshot>[0] = {}) =>
  decideFitting(world(more), {
    document: 'F-1',
    place: 'A',
    reason: 'weak head',
    units: [{ product: 'SER', serial: 'U1', ...unit }]
  });
const rowsOf = (decision: ReturnType<typeof book>) => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: ReturnType<typeof book>) =>
  decision.ok ? [] : decision.faults.map(({ code, path }) => `${code} ${path}`);
const says = (decision: ReturnType<typeof book>) =>
  decision.ok ? '' : decision.faults[0]!.message;
const out = (serial: string, state?: 'held' | 'scrap') => ({
  ...{ product: 'SIL', serial, to: 'B', position: '1' },
  ...(state ? { state } : {})
});

describe('parts in and out of a unit', () => {
  it('are swapped at a position: one comes out and is held, the other goes in', () => {
    const rows = rowsOf(
      book({
        remove: [out('C1', 'held')],
        fit: [{ product: 'SIL', serial: 'C2', position: '1' }]
      })
    );
    expect(rows.removals).toEqual([{ part: 31, host: 21, quantity: q(1), position: '1' }]);
    expect(rows.fittings).toEqual([{ part: 32, host: 21, quantity: q(1), position: '1' }]);
    expect(rows.changes).toEqual([{ mark: 31, field: 'state', from: 'usable', to: 'held' }]);
    expect(rows.movements.map((row) => [row.mark, row.placeId, row.quantity.toFixed()])).toEqual([
      [31, 2, '1'],
      [32, 1, '-1']
    ]);
  });
  it('are scrapped where they come out broken, with the reason', () => {
    const { scrapped } = rowsOf(book({ remove: [out('C1', 'scrap')] }));
    expect(scrapped).toMatchObject({ reason: 'weak head', movements: [{ mark: 31 }] });
  });
  it('come out of one unit and go into another in the same booking', () => {
    const two = decideFitting(
      world({
        marks: [
          { id: 21, product: 'SER', number: 'U1' },
          { id: 22, product: 'SER', number: 'U2' },
          { id: 31, product: 'SIL', number: 'C1' }
        ],
        stock: [
          [21, 'A', '1'],
          [22, 'A', '1']
        ]
      }),
      {
        ...{ document: 'F', place: 'A', reason: 'urgent' },
        units: [
          { product: 'SER', serial: 'U2', fit: [{ product: 'SIL', serial: 'C1' }] },
          { product: 'SER', serial: 'U1', remove: [{ product: 'SIL', serial: 'C1', to: 'A' }] }
        ]
      }
    );
    expect(rowsOf(two).fittings).toMatchObject([{ part: 31, host: 22 }]);
  });
  it('come out of a lot as much as is in it where nothing is said', () => {
    const rows = rowsOf(book({ remove: [{ product: 'LOT', lot: 'L1', to: 'B' }] }));
    expect(rows.removals[0]!.quantity.toFixed()).toBe('0.25');
  });
  it('are named by what is done', () => {
    const kind = (unit: Partial<HostFitting>) =>
      fittingKind({ document: '', place: '', units: [{ product: 'SER', ...unit }] });
    const fit = [{ product: 'SIL', serial: 'C2' }];
    expect([
      kind({ fit }),
      kind({ remove: [out('C1')] }),
      kind({ fit, remove: [out('C1')] })
    ]).toEqual(['fit', 'remove', 'swap']);
  });
});

describe('is refused', () => {
  it('for a part that is not in it, with what it has', () => {
    const decision = book({ remove: [out('C2')] });
    expect(faultsOf(decision)).toEqual(['part.absent units[0].remove[0]']);
    expect(says(decision)).toBe(
      'Serial C2 of SIL is not in U1 now: it lies at Works, rack A. It has C1. Check the number on the part.'
    );
  });
  it('for a part taken out twice', () => {
    expect(faultsOf(book({ remove: [out('C1'), out('C1')] }))).toEqual([
      'part.absent units[0].remove[1]'
    ]);
  });
  it('for a part that is in a unit already, with which', () => {
    const gone = new Map([
      [33, { kind: 'build', document: 'W', day: '2026-03-03', partner: null, into: 'SER U9' }]
    ]);
    const decision = book({ fit: [{ product: 'SIL', serial: 'C3' }] }, { gone });
    expect(faultsOf(decision)).toEqual(['part.fitted units[0].fit[0]']);
    expect(says(decision)).toContain('it is inside SER U9 since 3 Mar 2026, W');
  });
  it('for a unit that would go into itself, and a part put in where it came out', () => {
    expect(faultsOf(book({ fit: [{ product: 'SER', serial: 'U1' }] }))).toEqual([
      'part.fitted units[0].fit[0]'
    ]);
    const again = book({ remove: [out('C1')], fit: [{ product: 'SIL', serial: 'C1' }] });
    expect(faultsOf(again)).toEqual(['mark.duplicate units[0].fit[0]']);
  });
  it('for more than is in it, a unit that is not here, and nothing to do', () => {
    const much = { product: 'LOT', lot: 'L1', quantity: '0.3', to: 'B' };
    expect(faultsOf(book({ remove: [much] }))).toEqual(['quantity.mismatch units[0].remove[0]']);
    expect(faultsOf(book({ remove: [out('C1')] }, { stock: [] }))).toEqual([
      'stock.short units[0]'
    ]);
    expect(faultsOf(book({}))).toEqual(['mark.missing units[0]']);
  });
  it('for a held part, as its plan says', () => {
    const marks = [
      { id: 21, product: 'SER', number: 'U1' },
      { id: 32, product: 'SIL', number: 'C2', state: 'held' as const }
    ];
    expect(faultsOf(book({ fit: [{ product: 'SIL', serial: 'C2' }] }, { marks }))).toEqual([
      'mark.held units[0].fit[0]'
    ]);
  });
});
