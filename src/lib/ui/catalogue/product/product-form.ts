import type { Marking } from '../../../core/catalogue/marking.ts';
import { hasLots, hasSerials } from '../../../core/catalogue/plan.ts';
import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
import { typedWhole } from '../../parts/typed-whole.ts';

/** What is sent of a product: all of it but its bill, which has a page and versions of its own. */
export interface ProductBody {
  name: string;
  unit: string;
  decimals: number;
  made: boolean;
  marking?: Marking;
  plan: string | null;
  shelfLifeDays: unknown;
  warrantyMonths: unknown;
  gtin: string | null;
  netWeightKg: string | null;
  grossWeightKg: string | null;
  lengthCm: string | null;
  widthCm: string | null;
  heightCm: string | null;
  overReceiptPercent: string | null;
  lotScheme: string | null;
  serialScheme: string | null;
  units: { name: string; holds: string; gtin: string | null }[];
}

/** A product as it stands, as it would be sent again: what is changed of it is laid over this. */
export function bodyOf(record: ProductRecord): ProductBody {
  const { code: _, components: __, marking, plan, ...others } = record;
  return { ...others, ...markingBody(plan ?? '', marking) };
}

/** A plan says the marking; without one it is chosen. */
const markingBody = (plan: string, marking: Marking): Pick<ProductBody, 'plan' | 'marking'> =>
  plan === '' ? { plan: null, marking } : { plan };

const orNull = (text: string): string | null => text.trim() || null;
const typed = (value: number | null): string => value?.toString() ?? '';

export interface WhatForm {
  name: string;
  unit: string;
  decimals: string;
  made: boolean;
  gtin: string;
  overReceiptPercent: string;
}
export const whatForm = (record: ProductRecord): WhatForm => ({
  name: record.name,
  unit: record.unit,
  decimals: String(record.decimals),
  made: record.made,
  gtin: record.gtin ?? '',
  overReceiptPercent: record.overReceiptPercent === '0' ? '' : record.overReceiptPercent
});
export const whatBody = (form: WhatForm): Partial<ProductBody> => ({
  name: form.name,
  unit: form.unit,
  decimals: Number(form.decimals),
  made: form.made,
  gtin: orNull(form.gtin),
  overReceiptPercent: orNull(form.overReceiptPercent)
});

export interface MarkingForm {
  plan: string;
  marking: Marking;
  shelfLifeDays: string;
  warrantyMonths: string;
  lotScheme: string;
  serialScheme: string;
}
export const markingForm = (record: ProductRecord): MarkingForm => ({
  plan: record.plan ?? '',
  marking: record.marking,
  shelfLifeDays: typed(record.shelfLifeDays),
  warrantyMonths: typed(record.warrantyMonths),
  lotScheme: record.lotScheme ?? '',
  serialScheme: record.serialScheme ?? ''
});

/**
 * @param before what was sent last: without its marking where a plan says it now
 * @param identity how it is marked by what was chosen
 */
export function markingPart(
  { marking: _, ...before }: ProductBody,
  form: MarkingForm,
  identity: Marking
): ProductBody {
  return {
    ...before,
    ...markingBody(form.plan, form.marking),
    shelfLifeDays: typedWhole(form.shelfLifeDays),
    warrantyMonths: typedWhole(form.warrantyMonths),
    lotScheme: hasLots(identity) ? orNull(form.lotScheme) : null,
    serialScheme: hasSerials(identity) ? orNull(form.serialScheme) : null
  };
}

export interface SizeForm {
  netWeightKg: string;
  grossWeightKg: string;
  lengthCm: string;
  widthCm: string;
  heightCm: string;
}
export const sizeForm = (record: ProductRecord): SizeForm => ({
  netWeightKg: record.netWeightKg ?? '',
  grossWeightKg: record.grossWeightKg ?? '',
  lengthCm: record.lengthCm ?? '',
  widthCm: record.widthCm ?? '',
  heightCm: record.heightCm ?? ''
});
export const sizeBody = (form: SizeForm): Partial<ProductBody> => ({
  netWeightKg: orNull(form.netWeightKg),
  grossWeightKg: orNull(form.grossWeightKg),
  lengthCm: orNull(form.lengthCm),
  widthCm: orNull(form.widthCm),
  heightCm: orNull(form.heightCm)
});

export interface UnitsForm {
  units: { name: string; holds: string; gtin: string }[];
}
export const unitsForm = (record: ProductRecord): UnitsForm => ({
  units: record.units.map((unit) => ({ ...unit, gtin: unit.gtin ?? '' }))
});
/** Rows without a name and what it holds were never filled in. */
export const unitsBody = ({ units }: UnitsForm): Partial<ProductBody> => ({
  units: units
    .filter((unit) => unit.name.trim() !== '' || unit.holds.trim() !== '')
    .map(({ name, holds, gtin }) => ({ name, holds, gtin: orNull(gtin) }))
});

/** How finely a product is counted, as it is chosen. */
export const DECIMALS = [
  ['0', 'whole units'],
  ...[1, 2, 3, 4, 5, 6].map((n) => [String(n), `${n} decimal${n === 1 ? '' : 's'}`] as const)
] as const;

/** How it is marked, as it is chosen. */
export const MARKINGS = [
  ['none', 'quantity only'],
  ['lot', 'lot'],
  ['serial', 'serial'],
  ['serial-in-lot', 'serial within lot']
] as const satisfies readonly (readonly [Marking, string])[];
