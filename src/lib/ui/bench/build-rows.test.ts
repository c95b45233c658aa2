import { describe, expect, it } from 'vitest';
import { plainPlan } from '../../core/marking/plan.ts';
import { batchGroup, batchRows, lotsForNextUnit, outputColumns, slotsOf, unitGroups, type Component } from './build-rows.ts';

const components: Component[] = [
  { product: 'BLD', name: 'bladder', unit: 'each', marking: 'lot', quantity: '1' },
  { product: 'INF', name: 'inflator', unit: 'each', marking: 'serial', quantity: '2' },
  { product: 'BKL', name: 'buckle', unit: 'each', marking: 'none', quantity: '2' }
];
const lot = (number: string, quantity: string, expires: string | null = null) => ({ id: 1, number, quantity, expires, since: '2026-01-01', state: 'usable' as const });

describe('unit by unit', () => {
  it('asks for every serial position and one lot per lot component', () => {
    expect(slotsOf(components).map((slot) => slot.label)).toEqual(['BLD lot', 'INF 1', 'INF 2']);
  });

  it('proposes the first lot that still has enough after the units above', () => {
    const available = { BLD: [lot('B2', '5', '2027-06-01'), lot('B1', '1', '2027-01-01')] };
    const slots = slotsOf(components);
    expect(lotsForNextUnit(slots, [], available, '2026-11-23')).toEqual({ BLD: 'B1' });
    expect(lotsForNextUnit(slots, [{ BLD: 'b1' }], available, '2026-11-23')).toEqual({ BLD: 'B2' });
  });

  it('makes one group per unit, with what is still missing said', () => {
    const { groups, rowOf, missing } = unitGroups('TN275', components, [{ serial: '' }, { serial: 'TX-1', BLD: 'B1', 'INF 1': 'I1' }]);
    expect(rowOf).toEqual([1]);
    expect(missing.get(1)).toEqual(['INF 2']);
    expect(groups[0]).toEqual({
      outputs: [{ product: 'TN275', serial: 'TX-1', quantity: '1' }],
      inputs: [{ product: 'BLD', lot: 'B1', quantity: '1' }, { product: 'INF', serial: 'I1', quantity: '1' }, { product: 'BKL', quantity: '2' }]
    });
  });
});

describe('a batch', () => {
  it('is filled over several lots, adding up exactly, and what is short is said before the work', () => {
    const { rows, short } = batchRows(components.slice(0, 1), '7', { BLD: [lot('B1', '4', '2027-01-01'), lot('B2', '2')] }, '2026-11-23');
    expect(rows.map((row) => [row.number, row.quantity])).toEqual([['B1', '4'], ['B2', '2']]);
    expect(short).toEqual([{ product: 'BLD', short: '1', unit: 'each' }]);
  });

  it('is one group', () => {
    const { group } = batchGroup('PNL', 'P1', '7', components, [{ product: 'BLD', number: 'B1', quantity: '7' }, { product: 'inf', number: 'I1', quantity: '1' }, { product: '' }]);
    expect(group).toEqual({ outputs: [{ product: 'PNL', quantity: '7', lot: 'P1' }], inputs: [{ product: 'BLD', quantity: '7', lot: 'B1' }, { product: 'inf', quantity: '1', serial: 'I1' }] });
  });
});

describe('what is asked of a made unit beside its number', () => {
  const asked = outputColumns({ ...plainPlan('serial', { shelfLifeDays: 5 }), retest: 'entered', facts: [{ name: 'leak test', kind: 'choice', unit: '', least: null, most: null, choices: ['tight', 'loose'], required: true }, { name: 'pressure', kind: 'number', unit: 'mbar', least: '1', most: '9', choices: [], required: false }] });
  it('are its facts and the dates that are entered; what fills itself is not asked', () => expect(asked.map((column) => [column.key, column.kind, column.must])).toEqual([['retest', 'date', true], ['fact:leak test', 'choice', true], ['fact:pressure', 'quantity', false]]));
  it('goes with the unit it was given for', () => {
    const { groups } = unitGroups('P', [], [{ serial: 'S1', 'fact:leak test': 'tight', retest: '2027-01-01' }, { serial: 'S2' }], asked);
    expect(groups.map((group) => group.outputs[0])).toEqual([{ product: 'P', serial: 'S1', quantity: '1', retest: '2027-01-01', facts: { 'leak test': 'tight' } }, { product: 'P', serial: 'S2', quantity: '1' }]);
    expect(batchGroup('P', 'L', '5', [], [], { 'fact:pressure': '4' }, asked).group.outputs).toEqual([{ product: 'P', quantity: '5', lot: 'L', facts: { pressure: '4' } }]);
  });
});
