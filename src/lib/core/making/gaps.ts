import { total, ZERO, type Quantity } from '../quantity/quantity.ts';
import { netNeed, type Bill } from '../catalogue/bill.ts';

/**
 * What went into one group of a build: how much of the bill's product it made, and what was named
 * for it, by folded product code.
 */
export interface Recorded {
  made: Quantity;
  used: ReadonlyMap<string, Quantity>;
}
export interface Gap {
  group: number;
  product: string;
  wanted: Quantity;
  used: Quantity;
}

/**
 * The parts of the bill a build leaves open, group by group. What went into all groups together
 * counts towards whichever lacks it.
 * @param shared what went into the whole batch, by folded product code
 */
export function gapsOf(
  bill: Bill,
  groups: readonly Recorded[],
  shared: ReadonlyMap<string, Quantity>
): Gap[] {
  const made = total(groups.map((group) => group.made));
  if (made.lte(0)) return [];
  return bill.parts.flatMap((part): Gap[] => {
    const codes = [part.product, ...part.alternates].map((code) => code.toUpperCase());
    const sumOf = (used: ReadonlyMap<string, Quantity>) =>
      total(codes.flatMap((code) => used.get(code) ?? []));
    const whole = netNeed(part, bill.batch, made);
    const wanted = groups.map((group) =>
      part.per === 'unit'
        ? netNeed(part, bill.batch, group.made)
        : whole.times(group.made).div(made).toDecimalPlaces(6)
    );
    const own = groups.map((group) => sumOf(group.used));
    const open = wanted.map((need, index) => {
      const rest = need.minus(own[index]!);
      return rest.gt(0) ? rest : ZERO;
    });
    const lacking = total(open),
      pool = sumOf(shared);
    // Rounding a batch's part over its groups may leave the last of six decimals.
    if (lacking.lte(pool) || (part.per === 'batch' && total(own).plus(pool).gte(whole))) return [];
    return open.flatMap((rest, group) => {
      if (rest.lte(0)) return [];
      const used = own[group]!.plus(pool.times(rest).div(lacking)).toDecimalPlaces(6);
      return used.lt(wanted[group]!)
        ? [{ group, product: part.product, wanted: wanted[group]!, used }]
        : [];
    });
  });
}
