import { quantity, ZERO, type Quantity } from '../quantity/quantity.ts';

/** What lies at a place already; `kind` is the place's. */
export interface LyingThere {
  place: string;
  kind: string;
  mark: number;
  lot: number | null;
  product: string;
  quantity: string;
}
/** Goods to put away. */
export interface ToPutAway {
  mark: number;
  lot: number | null;
  product: string;
  from: string;
}

export interface PlaceProposal {
  place: string;
  why: 'same mark' | 'same lot' | 'same product' | 'room';
}

/** Kinds of place goods are kept at; a dock, a line or dispatch is passed through. */
const KEPT_AT = new Set(['rack', 'bin']);

/**
 * Where goods should go: where the same mark lies already, otherwise its lot, otherwise most of the
 * product, otherwise the first place that is kept for goods and empty. Never where they are, nor to
 * a place goods only pass through.
 * @returns null where there is no such place at all
 */
export function proposePlace(
  goods: ToPutAway,
  lying: readonly LyingThere[],
  places: readonly { code: string; kind: string }[]
): PlaceProposal | null {
  const fits = lying.filter((one) => KEPT_AT.has(one.kind) && one.place !== goods.from);
  const most = (rows: readonly LyingThere[]): string | null => {
    const sums = new Map<string, Quantity>();
    for (const row of rows) sums.set(row.place, (sums.get(row.place) ?? ZERO).plus(row.quantity));
    return [...sums].sort(([a, x], [b, y]) => y.comparedTo(x) || (a < b ? -1 : 1))[0]?.[0] ?? null;
  };
  const same = most(fits.filter((one) => one.mark === goods.mark));
  if (same) return { place: same, why: 'same mark' };
  const lot =
    goods.lot === null
      ? null
      : most(fits.filter((one) => one.lot === goods.lot || one.mark === goods.lot));
  if (lot) return { place: lot, why: 'same lot' };
  const product = most(fits.filter((one) => one.product === goods.product));
  if (product) return { place: product, why: 'same product' };
  const taken = new Set(
    lying.filter((one) => quantity(one.quantity).gt(0)).map((one) => one.place)
  );
  const room = places
    .filter((one) => KEPT_AT.has(one.kind) && one.code !== goods.from)
    .sort(
      (a, b) => Number(taken.has(a.code)) - Number(taken.has(b.code)) || (a.code < b.code ? -1 : 1)
    )[0];
  return room ? { place: room.code, why: 'room' } : null;
}
