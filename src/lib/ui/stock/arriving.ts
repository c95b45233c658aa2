import { groupBy } from '../../core/group-by.ts';
import {
  formatQuantity,
  parseQuantity,
  total,
  ZERO,
  type Quantity
} from '../../core/quantity/quantity.ts';
import type { CartonUnderWay } from '../../core/stock/carton-under-way.ts';
import type { Lying } from '../../core/stock/lying.ts';
import type { Part } from './moving.ts';
import { linesWith, marksOf, type Asked } from './transferring.ts';

/**
 * The ticked parts as what arrives from the way. A carton arrives as one where all that is in it is
 * ticked; only the rest becomes lines.
 */
export function arriving(parts: readonly Part[], cartons: readonly CartonUnderWay[]): Asked {
  const loose = new Map(parts.flatMap(amountOf));
  const units: string[] = [];
  for (const { sscc, contents } of cartons) {
    const rest = contents.map(({ mark, quantity }) => loose.get(mark)?.minus(quantity) ?? null);
    if (rest.some((left) => left === null || left.lt(0))) continue;
    units.push(sscc);
    contents.forEach(({ mark }, at) => loose.set(mark, rest[at]!));
  }
  const asked = linesWith(parts, ({ row, quantity }) => {
    const left = loose.get(row.mark);
    if (left?.isZero()) return null;
    return { product: row.product, ...marksOf(row, left ? formatQuantity(left) : quantity) };
  });
  return { ...asked, units };
}

/** How much of a part is ticked, by its mark; empty where no quantity was typed. */
function amountOf({ row, going, quantity: typed }: Part): [number, Quantity][] {
  const amount = going ? parseQuantity(typed) : null;
  return amount?.gt(0) ? [[row.mark, amount]] : [];
}

/**
 * Ticks what a scan says has arrived: all that is in a carton or on a pallet, or one number; a serial
 * that is in a carton brings the carton with it.
 * @returns null where nothing of that is under way
 */
export function tickArrived(
  parts: readonly Part[],
  cartons: readonly CartonUnderWay[],
  scanned: string
): Part[] | null {
  const number = scanned.toUpperCase();
  const named = parts.find(({ row }) => (row.number ?? row.product).toUpperCase() === number);
  const inside = cartons.filter(
    ({ sscc, pallet, contents }) =>
      sscc === scanned ||
      pallet === scanned ||
      (named?.row.kind === 'serial' && contents.some((one) => one.mark === named.row.mark))
  );
  if (inside.length > 0) return tickContents(parts, inside);
  if (!named) return null;
  return parts.map((part) => (part === named ? { ...part, going: true } : part));
}

function tickContents(parts: readonly Part[], cartons: readonly CartonUnderWay[]): Part[] {
  const inside = new Map<number, Quantity>();
  for (const { mark, quantity: amount } of cartons.flatMap((carton) => carton.contents))
    inside.set(mark, (inside.get(mark) ?? ZERO).plus(amount));
  return parts.map((part) => {
    const amount = inside.get(part.row.mark);
    if (!amount) return part;
    const ticked = part.going ? (parseQuantity(part.quantity) ?? ZERO) : ZERO;
    const all = parseQuantity(part.row.quantity) ?? amount;
    const sum = ticked.plus(amount);
    return { ...part, going: true, quantity: formatQuantity(sum.gt(all) ? all : sum) };
  });
}

/**
 * The cartons each mark is in, in words, by mark. Where more of a lot is in cartons than is under
 * way, it stays open which of them it is.
 */
export function sayCartons(
  lying: readonly Pick<Lying, 'mark' | 'quantity'>[],
  cartons: readonly CartonUnderWay[]
): ReadonlyMap<number, string> {
  const inside = groupBy(
    cartons.flatMap(({ sscc, contents }) => contents.map((one) => ({ ...one, sscc }))),
    ({ mark }) => mark
  );
  return new Map(
    lying.flatMap(({ mark, quantity }) => {
      const of = inside.get(mark);
      if (!of) return [];
      const packed = total(of.map((one) => parseQuantity(one.quantity) ?? ZERO));
      const open = packed.gt(parseQuantity(quantity) ?? ZERO);
      const where = of.length === 1 ? `carton ${of[0]!.sscc}` : `${of.length} cartons`;
      return [[mark, `${open ? 'may be in' : 'in'} ${where}`]];
    })
  );
}
