import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, quantity } from '../quantity/quantity.ts';
import { mayDo, rolesWith, ROLES } from '../people/rights.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { markKey } from '../ledger/snapshot.ts';
import { type Marking } from '../catalogue/marking.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';

const product = (marking: Marking) =>
  [...snapshot().products.values()].find((one) => one.marking === marking)!;

describe('which mark a row means', () => {
  const identity = (
    marking: Marking,
    named: { lot?: string; serial?: string },
    moment: 'birth' | 'use' = 'birth'
  ) => {
    const faults = new Faults();
    return (
      identify(product(marking), named, moment === 'birth' ? 'receive' : 'issue', 'p', faults) ??
      faults.list[0]!.code
    );
  };
  it.each<[Marking, { lot?: string; serial?: string }, 'birth' | 'use', unknown]>([
    ['none', {}, 'birth', { kind: 'bulk', number: '', lot: null }],
    ['none', { serial: 'S' }, 'birth', 'number.malformed'],
    ['lot', { lot: ' L1 ' }, 'birth', { kind: 'lot', number: 'L1', lot: null }],
    ['lot', {}, 'birth', 'mark.missing'],
    ['lot', { lot: ' ' }, 'birth', 'mark.missing'],
    ['lot', { lot: 'L', serial: 'S' }, 'birth', 'number.malformed'],
    ['serial', { serial: 'S1' }, 'use', { kind: 'serial', number: 'S1', lot: null }],
    ['serial', { lot: 'L' }, 'use', 'number.malformed'],
    ['serial', {}, 'use', 'mark.missing'],
    [
      'serial-in-lot',
      { lot: 'L', serial: 'S' },
      'birth',
      { kind: 'serial', number: 'S', lot: 'L' }
    ],
    ['serial-in-lot', { serial: 'S' }, 'birth', 'mark.missing'],
    ['serial-in-lot', { serial: 'S' }, 'use', { kind: 'serial', number: 'S', lot: null }],
    ['serial-in-lot', { lot: 'L' }, 'use', 'mark.missing'],
    ['serial-in-lot', { lot: '\u0001', serial: 'S' }, 'use', 'number.malformed']
  ])('%s with %o at %s', (marking, named, moment, expected) =>
    expect(identity(marking, named, moment)).toEqual(expected)
  );

  it('is found by a key that keeps products and kinds apart and capitals together', () => {
    expect(markKey(1, 'lot', 'ab ')).toBe(markKey(1, 'lot', 'AB'));
    expect(
      new Set([
        markKey(1, 'lot', '2'),
        markKey(1, 'serial', '2'),
        markKey(12, 'lot', ''),
        markKey(1, 'lot', '2 ')
      ]).size
    ).toBe(3);
  });
});

describe('quantities of a line', () => {
  const read = (text: string, of: Marking = 'lot') => {
    const faults = new Faults();
    const value = lineQuantity(product(of), text, 'p', faults);
    return value ? formatQuantity(value) : faults.list[0]!.code;
  };
  it.each([
    ['12', '12'],
    ['0.25', '0.25'],
    ['0', 'quantity.mismatch'],
    ['-1', 'quantity.mismatch'],
    ['0.001', 'quantity.not-whole'],
    ['', 'quantity.mismatch'],
    ['1,5', 'quantity.mismatch'],
    ['Infinity', 'quantity.mismatch'],
    ['9999999999999', 'quantity.mismatch']
  ])('%s is %s', (text, expected) => expect(read(text)).toBe(expected));
  it('of a serial is one, said or not', () => {
    const faults = new Faults();
    expect(
      [undefined, '', '1', '1.0', '2', '0.5'].map(
        (text) => serialQuantity(product('serial'), 'S', text, 'p', faults) !== null
      )
    ).toEqual([true, true, true, true, false, false]);
    expect(faults.list.map((fault) => fault.code)).toEqual([
      'quantity.mismatch',
      'quantity.not-whole'
    ]);
  });
});

describe('what is still there while a booking is decided', () => {
  const known = snapshot({
    stock: [
      [1, 'A', '5'],
      [1, 'B', '3']
    ]
  });
  const [a, b] = [known.places.get('A')!, known.places.get('B')!];
  const take = (
    availability: Availability,
    amount: string,
    only = null as typeof a | null,
    first = null as typeof a | null
  ) =>
    availability
      .take(1, quantity(amount), only, first)
      ?.map((row) => `${row.place.code} ${formatQuantity(row.quantity)}`) ?? null;

  it('is taken from one place, or from the first and then the others', () => {
    expect(take(new Availability(known), '6', null, b)).toEqual(['B 3', 'A 3']);
    expect(take(new Availability(known), '6')).toEqual(['A 5', 'B 1']);
    expect(take(new Availability(known), '4', b)).toBeNull();
  });

  it('is untouched by a taking that fails, and grows by what is made', () => {
    const availability = new Availability(known);
    expect(take(availability, '9')).toBeNull();
    expect(formatQuantity(availability.amount(1))).toBe('8');
    availability.add(1, b, quantity(2));
    expect(take(availability, '10')).toEqual(['A 5', 'B 5']);
    expect(availability.describe(1)).toBe('');
  });

  it('never goes below nothing, whatever is taken (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.constantFrom(a, b, null)), {
          maxLength: 12
        }),
        (takings) => {
          const availability = new Availability(known);
          let taken = quantity(0);
          for (const [cents, only] of takings)
            if (availability.take(1, quantity(cents).div(100), only, null))
              taken = taken.plus(quantity(cents).div(100));
          expect(availability.amount(1).plus(taken).eq(8)).toBe(true);
          expect(availability.amount(1, a).gte(0) && availability.amount(1, b).gte(0)).toBe(true);
        }
      )
    );
  });
});

describe('roles', () => {
  it('an administrator books nothing, an auditor changes nothing, a coordinator books everything', () => {
    for (const right of ['book.receive', 'book.build', 'book.ship', 'book.correct'] as const) {
      expect(mayDo(['administrator', 'auditor'], right)).toBe(false);
      expect(mayDo(['coordinator'], right)).toBe(true);
    }
    expect(rolesWith('edit.people')).toEqual(['administrator']);
    expect(rolesWith('read')).toEqual([...ROLES]);
  });
});
