import { groupBy } from '../group-by.ts';
import { totalOf } from '../quantity/quantity.ts';
import type { TraceFindings } from './trace.ts';
import { sayOrigin } from './traced.ts';

/** Goods of one product: how many marks, and how much in the product's unit. */
export interface Goods {
  product: string;
  marks: number;
  quantity: string;
}
export interface LargeTrace {
  marks: number;
  roots: number;
  levels: number;
  /**
   * By level and product: how many marks there are, and of how many something left, lies here or
   * was scrapped.
   */
  rows: {
    level: number;
    product: string;
    marks: number;
    out: number;
    here: number;
    scrapped: number;
  }[];
  customers: { partner: string; documents: string[]; goods: Goods[] }[];
  suppliers: { partner: string; documents: string[]; goods: Goods[] }[];
  /** What lay here before Earmark, or was found. */
  origins: { what: string; documents: string[]; goods: Goods[] }[];
  here: { place: string; goods: Goods[] }[];
  balances: TraceFindings['balances'];
}

interface Figures {
  roots: number;
  marks: ArrayLike<number>;
  levels: ArrayLike<number>;
  ends: TraceFindings['ends'];
  balances: TraceFindings['balances'];
}

/**
 * What a trace comes to that is larger than a screen draws: by level and product, by customer,
 * supplier and place.
 * @param products code of the product of each mark, beside `marks`
 */
export function summarise(
  { roots, marks, levels, ends, balances }: Figures,
  products: ArrayLike<string>
): LargeTrace {
  const productOf = new Map<number, string>();
  for (let n = 0; n < marks.length; n++) productOf.set(marks[n]!, products[n]!);
  const out = marksOf(ends.customers),
    here = marksOf(ends.onHand),
    scrapped = marksOf(ends.scrapped);
  const rows = new Map<string, LargeTrace['rows'][number]>();
  for (let n = 0; n < marks.length; n++) {
    const key = `${levels[n]} ${products[n]}`;
    let row = rows.get(key);
    if (!row)
      rows.set(
        key,
        (row = { level: levels[n]!, product: products[n]!, marks: 0, out: 0, here: 0, scrapped: 0 })
      );
    row.marks++;
    if (out.has(marks[n]!)) row.out++;
    if (here.has(marks[n]!)) row.here++;
    if (scrapped.has(marks[n]!)) row.scrapped++;
  }
  const goods = (list: readonly { mark: number; quantity: string }[]): Goods[] =>
    [...groupBy(list, (end) => productOf.get(end.mark) ?? '')]
      .map(([product, of]) => ({
        product,
        marks: marksOf(of).size,
        quantity: totalOf(of.map((end) => end.quantity))
      }))
      .sort((a, b) => b.marks - a.marks || (a.product < b.product ? -1 : 1));
  const partners = (list: TraceFindings['ends']['customers']) =>
    [...groupBy(list, (end) => end.partner)]
      .map(([partner, of]) => ({
        partner,
        documents: [...new Set(of.map((end) => end.document))],
        goods: goods(of)
      }))
      .sort((a, b) => b.goods.length - a.goods.length || (a.partner < b.partner ? -1 : 1));
  return {
    marks: marks.length,
    roots,
    levels: levels.length === 0 ? 0 : levels[levels.length - 1]!,
    balances,
    rows: [...rows.values()].sort((a, b) => a.level - b.level || (a.product < b.product ? -1 : 1)),
    customers: partners(ends.customers),
    suppliers: partners(ends.suppliers),
    origins: [...groupBy(ends.origins, (end) => sayOrigin(end.kind))].map(([what, of]) => ({
      what,
      documents: [...new Set(of.map((end) => end.document))],
      goods: goods(of)
    })),
    here: [...groupBy(ends.onHand, (end) => end.place)]
      .map(([place, of]) => ({ place, goods: goods(of) }))
      .sort((a, b) => (a.place < b.place ? -1 : 1))
  };
}

const marksOf = (list: readonly { mark: number }[]): Set<number> =>
  new Set(list.map((end) => end.mark));
