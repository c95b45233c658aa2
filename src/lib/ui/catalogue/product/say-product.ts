import type { Marking } from '../../../core/catalogue/marking.ts';
import { hasLots, hasSerials } from '../../../core/catalogue/plan.ts';
import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
import {
  TRANSPORT_MODES,
  volumetricWeight,
  type TransportMode
} from '../../../core/quantity/volumetric.ts';
import { count, sayQuantity } from '../../parts/say.ts';

/** How each marking is said in a sentence. */
export const SAY_MARKING: Record<Marking, string> = {
  none: 'Kept by quantity only: it shows up in traces as unmarked.',
  lot: 'Marked by lot: a quantity made or received together has one number.',
  serial: 'Marked by serial: every one has its own number.',
  'serial-in-lot': 'Marked by serial within lot: every one has its own number and belongs to a lot.'
};

/** What it is, what it is counted in and where it comes from. */
export function sayWhat(product: ProductRecord): string[] {
  const { unit, decimals, made, gtin, overReceiptPercent } = product;
  const parts = decimals === 0 ? 'whole units' : count(decimals, 'decimal');
  return [
    `Counted in ${unit}, in ${parts}.`,
    made ? 'Made here, of what its bill says.' : 'Bought: it is received and not built.',
    gtin
      ? `Its GTIN is ${gtin}.`
      : 'It has no GTIN: its labels and tags carry our own numbers alone.',
    ...(overReceiptPercent === '0'
      ? []
      : [`Up to ${overReceiptPercent} % more than ordered may come in.`])
  ];
}

/** What one scheme, or hand, numbers, and what comes next. */
export interface NumberedBy {
  /** Code of the scheme; null for none. */
  scheme: string | null;
  /** The number it would give next; null where that is not known. */
  next: string | null;
}

/** How it is marked, numbered and how long it is good. */
export function sayMarking(
  product: ProductRecord,
  lots: NumberedBy,
  serials: NumberedBy
): string[] {
  const { marking, plan, shelfLifeDays, warrantyMonths } = product;
  return [
    SAY_MARKING[marking],
    plan
      ? `Plan ${plan} says what is asked of it at each step.`
      : 'No plan says more: its number is asked at every step.',
    ...(hasLots(marking) ? [sayNumbering('Lots', lots, plan)] : []),
    ...(hasSerials(marking) ? [sayNumbering('Serials', serials, plan)] : []),
    sayLife(shelfLifeDays, plan),
    ...(warrantyMonths === null
      ? []
      : [`Under warranty for ${count(warrantyMonths, 'month')} from dispatch.`])
  ];
}

function sayLife(days: number | null, plan: string | null): string {
  if (days !== null) return `Good for ${count(days, 'day')} from the day it was made.`;
  return plan ? `How long it is good is as plan ${plan} says.` : 'It does not expire by itself.';
}

function sayNumbering(what: string, { scheme, next }: NumberedBy, plan: string | null): string {
  if (scheme === null)
    return plan
      ? `${what} are numbered as plan ${plan} says.`
      : `${what} are numbered by hand, or carry their maker’s number.`;
  return `${what} are numbered by ${scheme}${next ? `; the next is ${next}` : ''}.`;
}

/** What one weighs and measures. */
export function saySize(product: ProductRecord): string[] {
  const { netWeightKg, grossWeightKg, lengthCm, widthCm, heightCm } = product;
  const weights = [
    netWeightKg ? `${netWeightKg} kg net` : '',
    grossWeightKg ? `${grossWeightKg} kg gross` : ''
  ].filter(Boolean);
  const modes = (Object.keys(TRANSPORT_MODES) as TransportMode[]).flatMap((mode) => {
    const weight = volumetricWeight(product, mode);
    return weight ? [`${weight} kg by ${mode}`] : [];
  });
  const says = [
    ...(weights.length > 0 ? [`One weighs ${weights.join(', ')}.`] : []),
    ...(lengthCm && widthCm && heightCm
      ? [`It measures ${lengthCm} × ${widthCm} × ${heightCm} cm.`]
      : []),
    ...(modes.length > 0 ? [`Volumetric weight: ${modes.join(', ')}.`] : [])
  ];
  return says.length > 0 ? says : ['No weight and no size is kept: packing lists leave them out.'];
}

/** The other units it is counted in. */
export const sayUnits = ({ unit, units }: ProductRecord): string[] =>
  units.length === 0
    ? [`It is counted in ${unit} alone.`]
    : units.map(
        (one) =>
          `One ${one.name} holds ${sayQuantity(one.holds)} ${unit}${one.gtin ? `; its GTIN is ${one.gtin}` : ''}.`
      );
