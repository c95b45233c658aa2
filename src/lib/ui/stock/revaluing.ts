import type { RevaluingMark } from '../../core/stock/costs/told.ts';
import { groupBy } from '../../core/group-by.ts';
import { formatQuantity, parseQuantity, quantity, totalOf } from '../../core/quantity/quantity.ts';

/** Serials of a product and lot that cost the same are told in one row; lots each in their own. */
export interface RevaluedRow {
  marks: readonly RevaluingMark[];
  quantity: string;
  /** What one costs by now, and as it was typed. */
  cost: string | null;
  typed: string;
}

export function revaluedRows(marks: readonly RevaluingMark[]): RevaluedRow[] {
  const alike = groupBy(marks, ({ kind, product, lot, number, cost }) =>
    JSON.stringify([product, kind === 'serial' ? lot : number, kind, cost])
  );
  return [...alike.values()].map((of) => ({
    marks: of,
    quantity: totalOf(of.map((one) => one.quantity)),
    cost: of[0]!.cost,
    typed: shownFor(of[0]!)
  }));
}

/** A known cost as it stands in its field. */
const shownFor = ({ cost }: Pick<RevaluingMark, 'cost'>): string =>
  cost === null ? '' : formatQuantity(quantity(cost).toDecimalPlaces(6));

/** Whether a row says another cost than before. */
export const isTold = (row: RevaluedRow): boolean => row.typed.trim() !== shownFor(row);

/** The rows that say another cost, as lines the API takes; line n is of the row at `of[n]`. */
export function revaluedLines(rows: readonly RevaluedRow[]): {
  lines: { product: string; lot?: string; serial?: string; unitCost: string }[];
  of: number[];
} {
  const lines: ReturnType<typeof revaluedLines>['lines'] = [];
  const of: number[] = [];
  rows.forEach((row, at) => {
    if (!isTold(row)) return;
    for (const { kind, product, lot, number } of row.marks) {
      const named = { ...(lot ? { lot } : {}), ...(kind === 'lot' ? { lot: number! } : {}) };
      const serial = kind === 'serial' ? { serial: number! } : {};
      lines.push({ product, ...named, ...serial, unitCost: row.typed.trim() });
      of.push(at);
    }
  });
  return { lines, of };
}

/** What rows come to by what is typed: their sum, and how many have no cost. */
export function worthOf(rows: readonly RevaluedRow[]): { sum: string; unknown: number } {
  const worth = rows.map((row) => parseQuantity(row.typed)?.times(row.quantity) ?? null);
  return {
    sum: totalOf(worth.flatMap((one) => (one === null ? [] : [formatQuantity(one)]))),
    unknown: worth.filter((one) => one === null).length
  };
}
