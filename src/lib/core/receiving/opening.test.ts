import { describe, expect, it } from 'vitest';
import { WAYS } from '../catalogue/plan.ts';
import type { Decision, Rows } from '../ledger/booking.ts';
import type { OpeningLine } from '../ledger/request.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { decideOpening } from './opening.ts';

const rowsOf = (decision: Decision): Rows => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const opening = (...lines: OpeningLine[]) => ({ document: 'O', lines });
const ofLot = (more: Partial<OpeningLine> = {}): OpeningLine => ({
  product: 'LOT',
  place: 'A',
  quantity: '4',
  marks: [{ lot: 'L1' }],
  ...more
});

describe('opening stock', () => {
  it('is kept where it lies, of nobody and of no order, each with its own cost', () => {
    const decision = decideOpening(
      snapshot(),
      opening({
        product: 'SER',
        place: 'B',
        quantity: '2',
        unitCost: '9.5',
        marks: [{ serial: 'S1', unitCost: '12' }, { serial: 'S2' }]
      })
    );
    const rows = rowsOf(decision);
    expect(rows).toMatchObject({ partnerId: null, orderId: null });
    expect(rows.movements.map((row) => [row.placeId, row.unitCost?.toFixed()])).toEqual([
      [2, '12'],
      [2, '9.5']
    ]);
  });

  it('lies at two places in two units of measure: one lot, each amount by its own', () => {
    const rows = rowsOf(
      decideOpening(snapshot(), opening(ofLot({ unit: 'pack' }), ofLot({ place: 'B' })))
    );
    expect(rows.newMarks).toHaveLength(1);
    expect(rows.movements.map((row) => [row.placeId, row.quantity.toFixed()])).toEqual([
      [1, '40'],
      [2, '4']
    ]);
  });

  it('has no expiry computed from the day it was booked: that says nothing of its age', () => {
    const fresh = (mark: object) =>
      decideOpening(
        snapshot(),
        opening({ product: 'FRESH', place: 'A', quantity: '1', marks: [{ lot: 'F1', ...mark }] })
      );
    expect(faultsOf(fresh({}))).toEqual(['date.missing lines[0].marks[0]']);
    const made = rowsOf(fresh({ made: '2026-11-20' }));
    expect(made.newMarks[0]).toMatchObject({ madeOn: '2026-11-20', expiresOn: '2026-11-30' });
    const given = rowsOf(fresh({ expires: '2026-12-24' }));
    expect(given.newMarks[0]).toMatchObject({ madeOn: null, expiresOn: '2026-12-24' });
  });

  it('may have expired long ago: it lies there, and that is told', () => {
    const decision = decideOpening(
      snapshot(),
      opening(ofLot({ marks: [{ lot: 'L1', expires: '2026-01-31' }] }))
    );
    rowsOf(decision);
    expect(decision.notes.map((note) => note.message)).toEqual([
      expect.stringContaining('L1 expired on 31 Jan 2026')
    ]);
  });

  it('takes the number of what gets its number only where it is made', () => {
    const asks = { ...WAYS['only when it is shipped'], output: 'always' as const };
    const line = { product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'S1' }] };
    const rows = rowsOf(decideOpening(snapshot({ plans: { SER: { asks } } }), opening(line)));
    expect(rows.newMarks).toMatchObject([{ kind: 'serial', number: 'S1' }]);
  });

  it('lay there once: what came in at a place before is not doubled', () => {
    const known = snapshot({
      marks: [{ id: 9, product: 'LOT', number: 'L1' }],
      stock: [[9, 'A', '4']],
      opened: new Map([[9, [{ place: 1, document: 'O-1', quantity: '4.000000' }]]])
    });
    const again = decideOpening(known, opening(ofLot()));
    expect(!again.ok && again.faults).toMatchObject([
      { code: 'mark.duplicate', message: expect.stringContaining('4 each of lot L1 of LOT') }
    ]);
    rowsOf(decideOpening(known, opening(ofLot({ place: 'B' }))));
  });

  it('refuses a serial that is known, and costs that are none, each where it stands', () => {
    const known = snapshot({
      marks: [{ id: 9, product: 'SER', kind: 'serial', number: 'S1' }]
    });
    const line = { product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'S1' }] };
    expect(faultsOf(decideOpening(known, opening(line)))).toEqual([
      'mark.duplicate lines[0].marks[0]'
    ]);
    for (const unitCost of ['-1', '1e400', 'dear', '0.1234567'])
      expect(faultsOf(decideOpening(snapshot(), opening(ofLot({ unitCost }))))).toEqual([
        'quantity.mismatch lines[0].unitCost'
      ]);
  });
});
