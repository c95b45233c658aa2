import { expect, it } from 'vitest';
import { jobOf, missing, nextUnit, openJobOf, type FoundUnit, type Intake } from './taking-in.ts';

const typed: Intake = {
  product: ' TN150 ',
  serial: 'TN-1',
  lot: '',
  customer: 'SKARROW',
  place: 'DN-BENCH',
  fault: ' weak ',
  faultCode: '',
  condition: 'wet',
  accessories: 'strap',
  contact: { name: 'Bo', email: '', phone: '' },
  promised: '',
  charged: '',
  here: true
};

it('sends what was typed, and leaves out what was not', () => {
  expect(jobOf(typed)).toEqual({
    unit: { product: 'TN150', serial: 'TN-1' },
    customer: 'SKARROW',
    place: 'DN-BENCH',
    fault: 'weak',
    faultCode: null,
    condition: 'wet',
    accessories: 'strap',
    contact: typed.contact,
    promised: null
  });
  expect(jobOf({ ...typed, here: false, charged: 'no' })).toMatchObject({ charged: false });
  expect(jobOf({ ...typed, here: false })).not.toHaveProperty('place');
});

it('keeps the customer for the next unit, and nothing of the one before', () => {
  const next = nextUnit(typed);
  expect(next).toMatchObject({ customer: 'SKARROW', place: 'DN-BENCH', contact: { name: 'Bo' } });
  expect([next.serial, next.product, next.fault, next.condition, next.accessories]).toEqual([
    '',
    '',
    '',
    '',
    ''
  ]);
});

it('names the first thing that is missing', () => {
  expect(missing(typed)).toBe('');
  expect(missing({ ...typed, fault: ' ' })).toContain('what is wrong');
  expect(missing(nextUnit(typed))).toContain('Scan the unit');
});

it('finds the open job of a unit among its earlier ones', () => {
  const job = (number: string, state: string) => ({ number, state, fault: '' });
  const unit = { jobs: [job('SJ-3', 'in work'), job('SJ-1', 'sent back')] } as unknown as FoundUnit;
  expect(openJobOf(unit)?.number).toBe('SJ-3');
  expect(
    openJobOf({ ...unit, jobs: [job('SJ-1', 'ended')] } as unknown as FoundUnit)
  ).toBeUndefined();
});
