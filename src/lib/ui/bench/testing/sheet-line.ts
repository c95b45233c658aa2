import { plainPlan, type MarkingPlan } from '../../../core/catalogue/plan.ts';
import type { SheetLine } from '../line-rows.ts';

/** A line of ten of an invented product, marked so, with what a test wants otherwise. */
export const sheetLine = (
  marking: SheetLine['marking'],
  plan: Partial<MarkingPlan> = {},
  more: Partial<SheetLine> = {}
): SheetLine => ({
  line: 1,
  product: 'P',
  name: 'p',
  unit: 'each',
  decimals: 0,
  marking,
  plan: { ...plainPlan(marking, { shelfLifeDays: 30 }), ...plan },
  shelfLifeDays: 30,
  gtin: null,
  numbersLots: false,
  numbersSerials: false,
  units: [{ name: 'pack', holds: '100', gtin: null }],
  enteredAs: null,
  announced: [],
  quantity: '10',
  done: '0',
  left: '10',
  most: '10',
  ...more
});
