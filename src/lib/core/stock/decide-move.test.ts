import { describe, expect, it } from 'vitest';
import type { Decision } from '../ledger/booking.ts';
import type { Move } from '../ledger/request.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { quantity } from '../quantity/quantity.ts';
import { decideMove, leavesQuarantine } from './decide-move.ts';

const CARTON = '095200010000000010';
const carton = {
  id: 7,
  sscc: CARTON,
  kind: 'carton' as const,
  order: null,
  shipped: null,
  pallet: null,
  cartons: [],
  contents: new Map([
    [1, quantity(3)],
    [2, quantity(1)]
  ])
};
const world = (more: Parameters<typeof snapshot>[0] = {}) =>
  snapshot({
    marks: [
      { id: 1, product: 'LOT', number: 'L1' },
      { id: 2, product: 'SER', number: 'S1' }
    ],
    stock: [
      [1, 'A', '5'],
      [1, 'B', '2'],
      [2, 'A', '1']
    ],
    units: new Map([[CARTON, carton]]),
    packed: new Map([
      [1, [{ sscc: CARTON, quantity: quantity(3) }]],
      [2, [{ sscc: CARTON, quantity: quantity(1) }]]
    ]),
    ...more
  });
const decide = (more: Partial<Move>, known = world()) =>
  decideMove(known, { document: 'M', kind: 'move', lines: [], ...more });
const moves = (decision: Decision) => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows.movements.map((row) => [row.mark, row.placeId, row.quantity.toFixed()]);
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const lot = (amount: string) => ({
  product: 'LOT',
  lot: 'L1',
  from: 'A',
  to: 'B',
  quantity: amount
});

describe('a move', () => {
  it('leaves in its carton what is packed, and takes what may be loose', () => {
    // Seven in all, three of them in a carton: two lie at B, so at least one of it is at A.
    expect(moves(decide({ lines: [lot('4')] }))).toEqual([
      [1, 1, '-4'],
      [1, 2, '4']
    ]);
    const refused = decide({ lines: [lot('5')] });
    expect(!refused.ok && refused.faults).toMatchObject([
      {
        code: 'mark.reserved',
        message: expect.stringContaining(`carton ${CARTON}. 4 of it are loose`)
      }
    ]);
    const serial = { product: 'SER', serial: 'S1', from: 'A', to: 'B' };
    expect(faultsOf(decide({ lines: [serial] }))).toEqual(['mark.reserved lines[0]']);
  });

  it('carries a carton with all that is in it, and what is loose beside it', () => {
    expect(moves(decide({ units: [{ sscc: CARTON, to: 'B' }], lines: [lot('2')] }))).toEqual([
      [1, 1, '-3'],
      [1, 2, '3'],
      [2, 1, '-1'],
      [2, 2, '1'],
      [1, 1, '-2'],
      [1, 2, '2']
    ]);
  });

  it('refuses a carton that is gone, or that nobody knows', () => {
    const gone = world({ units: new Map([[CARTON, { ...carton, shipped: 'SO-1' }]]) });
    expect(faultsOf(decide({ units: [{ sscc: CARTON, to: 'B' }] }, gone))).toEqual([
      'mark.unknown units[0].sscc'
    ]);
    expect(faultsOf(decide({ units: [{ sscc: '1', to: 'B' }] }))).toEqual([
      'mark.unknown units[0].sscc'
    ]);
  });

  it('tells that what it moves is promised, and does not stop', () => {
    const promised = new Map([[1, [{ order: 'SO-9', partner: 'Ferries', quantity: quantity(1) }]]]);
    const decision = decide({ lines: [lot('1')] }, world({ promised }));
    expect(decision.notes.map((note) => note.message)).toEqual([
      'L1 is promised to SO-9, Ferries.'
    ]);
  });

  it('to where it lies already is none', () => {
    expect(faultsOf(decide({ lines: [{ ...lot('1'), to: 'A' }] }))).toEqual([
      'place.unknown lines[0].to'
    ]);
  });

  it('out of quarantine is one also where a whole carton is carried', () => {
    const base = world();
    const places = new Map(base.places).set('A', { ...base.places.get('A')!, quarantine: true });
    const request = { document: 'M', kind: 'move', lines: [], units: [{ sscc: CARTON, to: 'B' }] };
    expect(leavesQuarantine({ ...base, places }, request as Move)).toBe(true);
    expect(leavesQuarantine(base, request as Move)).toBe(false);
  });
});
