import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import { decideBuild } from '../making/build.ts';
import { decideReceipt } from '../receiving/receive.ts';
import { decideReturn } from '../shipping/return.ts';
import { decideShipment } from '../shipping/ship.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { decideCorrection } from './correct.ts';
import { leavesQuarantine } from './decide-move.ts';

// Place Q of the small world is its quarantine; 3 of lot L1 lie there and 4 at A.
const world = (more: Parameters<typeof snapshot>[0] = {}) =>
  snapshot({
    marks: [{ id: 11, product: 'LOT', number: 'L1' }],
    stock: [
      [11, 'A', '4'],
      [11, 'Q', '3']
    ],
    ...more
  });
const ship = (quantity: string, more: Parameters<typeof snapshot>[0] = {}) =>
  decideShipment(world(more), {
    ...{ document: 'S', customer: 'CUS' },
    lines: [{ product: 'LOT', marks: [{ lot: 'L1', quantity }] }]
  });
type Decided = ReturnType<typeof decideShipment>;
const faultsOf = (decision: Decided) =>
  decision.ok ? [] : decision.faults.map(({ code }) => code);
const placesOf = (decision: Decided) =>
  decision.ok && decision.rows.movements.map((row) => `${row.placeId} ${row.quantity.toFixed()}`);

describe('what lies in quarantine', () => {
  it('is passed over by whoever ships, and refused where nothing else is left', () => {
    expect(placesOf(ship('4'))).toEqual(['1 -4']);
    const refused = ship('5');
    expect(faultsOf(refused)).toEqual(['place.quarantine']);
    expect(refused.ok || refused.faults[0]!.message).toContain('lies in quarantine (A 4 and Q 3)');
    expect(faultsOf(ship('8'))).toEqual(['stock.short']);
  });
  it('is no serial to ship, use or pass on', () => {
    const serial = {
      marks: [{ id: 21, product: 'SER', number: 'S1' }],
      stock: [[21, 'Q', '1']] as [number, string, string][]
    };
    const used = decideBuild(world(serial), {
      ...{ document: 'B', place: 'A' },
      groups: [
        {
          outputs: [{ product: 'LOT', lot: 'N', quantity: '1' }],
          inputs: [{ product: 'SER', serial: 'S1' }]
        }
      ]
    });
    expect(faultsOf(used)).toEqual(['place.quarantine']);
  });
  it('is not drawn, and counts for no promise', () => {
    const drawn = decideBuild(world(), {
      ...{ document: 'B', place: 'A' },
      groups: [{ outputs: [{ product: 'SER', serial: 'N', quantity: '1' }], inputs: [] }],
      shared: [{ product: 'LOT', quantity: '5', draw: true }]
    });
    expect(faultsOf(drawn)).toEqual(['stock.short']);
    const promised = new Map([[11, [{ order: 'SO-9', partner: null, quantity: quantity(2) }]]]);
    expect(faultsOf(ship('3', { promised }))).toEqual(['mark.reserved']);
  });
  it('may be scrapped where it lies', () => {
    const scrapped = decideCorrection(world(), {
      ...{ document: 'C', kind: 'scrap' },
      lines: [{ product: 'LOT', lot: 'L1', place: 'Q', quantity: '3' }]
    });
    expect(placesOf(scrapped)).toEqual(['3 -3']);
  });
  it('is moved out only by whoever decides', () => {
    const move = (from: string, to: string) =>
      leavesQuarantine(world(), {
        ...{ document: 'M', kind: 'move' },
        lines: [{ product: 'LOT', lot: 'L1', from, to, quantity: '1' }]
      });
    expect([move('Q', 'A'), move('A', 'Q'), move('A', 'B')]).toEqual([true, false, false]);
  });
});

describe('a plan that sends there', () => {
  const receipt = {
    ...{ document: 'R', supplier: 'SUP' },
    lines: [{ product: 'LOT', place: 'A', quantity: '2', marks: [{ lot: 'N1', quantity: '2' }] }]
  };
  it('has what is received lie in the quarantine of the site, and says so', () => {
    const decision = decideReceipt(
      world({ plans: { LOT: { receivedTo: 'quarantine' } } }),
      receipt
    );
    expect(placesOf(decision)).toEqual(['3 2']);
    expect(decision.notes[0]!.message).toContain('its plan sends it to quarantine first');
    expect(placesOf(decideReceipt(world(), receipt))).toEqual(['1 2']);
  });
  it('is refused where the site has none', () => {
    const bare = world({ plans: { LOT: { receivedTo: 'quarantine' } } });
    const places = new Map([...bare.places].filter(([code]) => code !== 'Q'));
    expect(faultsOf(decideReceipt({ ...bare, places }, receipt))).toEqual(['place.quarantine']);
  });
  it('holds there what comes back of a lot, and not the rest of it', () => {
    const sale = {
      ...{ event: 5, document: 'S', day: '2026-10-01', partner: 'Customer', partnerId: 2 },
      quantity: quantity(2)
    };
    const decision = decideReturn(
      world({ plans: { LOT: { returnedTo: 'quarantine' } }, sales: new Map([[11, [sale]]]) }),
      { document: 'RMA', place: 'A', lines: [{ product: 'LOT', lot: 'L1', quantity: '1' }] }
    );
    expect(placesOf(decision)).toEqual(['3 1']);
    expect(decision.ok && decision.rows.changes).toEqual([]);
  });
  it('takes what comes back in a recall where the plan says so, and nothing else of it', () => {
    const sale = {
      ...{ event: 5, document: 'S', day: '2026-10-01', partner: 'Customer', partnerId: 2 },
      quantity: quantity(2)
    };
    const back = (recalled: number[]) =>
      decideReturn(
        world({
          plans: { LOT: { recalledTo: 'quarantine' } },
          sales: new Map([[11, [sale]]]),
          recalled: new Set(recalled)
        }),
        { document: 'RMA', place: 'A', lines: [{ product: 'LOT', lot: 'L1', quantity: '1' }] }
      );
    expect(placesOf(back([11]))).toEqual(['3 1']);
    expect(placesOf(back([12]))).toEqual(['1 1']);
  });
});
