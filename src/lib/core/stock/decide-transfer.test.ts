import { describe, expect, it } from 'vitest';
import type { Decision } from '../ledger/booking.ts';
import type { KnownPlace, Snapshot } from '../ledger/snapshot.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { quantity } from '../quantity/quantity.ts';
import { decideMove } from './decide-move.ts';
import { decideTransfer, type Transfer } from './decide-transfer.ts';

const CARTON = '095200010000000010';
const place = (id: number, code: string, site: string, transit = false): [string, KnownPlace] => [
  code,
  { id, code, name: code, site, zone: 'Europe/London', quarantine: false, transit }
];

/** Two sites, a transfer under way from Works to Far, and another; a carton with three of a lot. */
const world = (...stock: [number, string, string][]): Snapshot => {
  const known = snapshot({
    marks: [{ id: 1, product: 'LOT', number: 'L1' }],
    stock,
    units: new Map([
      [
        CARTON,
        {
          ...{ id: 7, sscc: CARTON, kind: 'carton', order: null, shipped: null, pallet: null },
          ...{ cartons: [], contents: new Map([[1, quantity(3)]]) }
        }
      ]
    ]),
    packed: new Map([[1, [{ sscc: CARTON, quantity: quantity(3) }]]])
  });
  const places = new Map([
    ...known.places,
    place(8, 'FAR', 'Far'),
    place(9, 'WAY T-1', 'Far', true),
    place(10, 'WAY T-2', 'Works', true)
  ]);
  return { ...known, places };
};
const leg = (given: Partial<Transfer>): Transfer => ({
  ...{ document: 'T-1', kind: 'transfer', way: 'WAY T-1', lines: [] },
  ...{ leg: 'dispatch', site: 'Works' },
  ...given
});
const leaves = (...units: string[]): Transfer =>
  leg({ units: units.map((sscc) => ({ sscc, to: 'WAY T-1' })) });
const arrives = (to: string, ...units: string[]): Transfer =>
  leg({ leg: 'arrival', site: 'Far', units: units.map((sscc) => ({ sscc, to })) });
const told = (decision: Decision) => {
  if (!decision.ok) return decision.faults.map((fault) => `${fault.code} ${fault.path}`);
  return decision.rows.movements.map((row) => `${row.placeId} ${row.quantity.toFixed()}`);
};

describe('a carton on a transfer', () => {
  it('leaves from the site the transfer leaves, and from no other', () => {
    expect(told(decideTransfer(world([1, 'A', '3']), leaves(CARTON)))).toEqual(['1 -3', '9 3']);
    const elsewhere = decideTransfer(world([1, 'FAR', '3']), leaves(CARTON));
    expect(told(elsewhere)).toEqual(['place.unknown units[0]']);
    expect(!elsewhere.ok && elsewhere.faults[0]!.message).toContain('lies at Far, FAR (3)');
  });

  it('does not leave while it is under way, with this transfer or another', () => {
    for (const way of ['WAY T-1', 'WAY T-2'])
      expect(told(decideTransfer(world([1, way, '3']), leaves(CARTON)))).toEqual([
        'place.unknown units[0]'
      ]);
  });

  it('arrives from the way, whatever else of the lot lies elsewhere', () => {
    const both = world([1, 'A', '5'], [1, 'WAY T-1', '3']);
    expect(told(decideTransfer(both, arrives('FAR', CARTON)))).toEqual(['9 -3', '8 3']);
  });

  it('does not arrive that never left, nor at another site', () => {
    const never = decideTransfer(world([1, 'A', '3']), arrives('FAR', CARTON));
    expect(told(never)).toEqual(['transfer.unknown units[0]']);
    expect(!never.ok && never.faults[0]!.message).toContain('is not on the way with T-1');
    const wrong = decideTransfer(world([1, 'WAY T-1', '3']), arrives('A', CARTON));
    expect(told(wrong)).toEqual(['place.unknown place']);
  });

  it('that is under way is moved by its transfer only', () => {
    const underWay = world([1, 'WAY T-1', '3']);
    const move = { document: 'M', kind: 'move' as const, lines: [] };
    const moved = decideMove(underWay, { ...move, units: [{ sscc: CARTON, to: 'A' }] });
    expect(told(moved)).toEqual(['stock.short units[0]']);
    expect(!moved.ok && moved.faults[0]!.message).toContain('is on the way between sites');
  });
});

describe('a line of a transfer', () => {
  const line = { product: 'LOT', lot: 'L1', quantity: '1' };

  it('leaves from no other transfer', () => {
    const from = { ...line, from: 'WAY T-2', to: 'WAY T-1' };
    expect(told(decideTransfer(world([1, 'WAY T-2', '9']), leg({ lines: [from] })))).toEqual([
      'place.unknown lines[0].from'
    ]);
  });

  it('tells a wrong place once, however many arrive there', () => {
    const lines = [line, line, line].map((one) => ({ ...one, from: 'WAY T-1', to: 'A' }));
    const arrival = leg({ leg: 'arrival', site: 'Far', lines });
    expect(told(decideTransfer(world([1, 'WAY T-1', '9']), arrival))).toEqual([
      'place.unknown place'
    ]);
  });
});
