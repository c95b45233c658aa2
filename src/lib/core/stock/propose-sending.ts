import { groupBy } from '../group-by.ts';
import type { MarkKind } from '../catalogue/marking.ts';
import { formatQuantity, quantity, total, type Quantity } from '../quantity/quantity.ts';
import type { OrderedLine } from './decide-transfer-order.ts';

/** A part of stock that may be sent. */
export interface Sendable {
  id: number;
  kind: MarkKind;
  product: string;
  quantity: string;
  /** What of the mark is promised, wherever it lies. */
  promised: string;
}

/**
 * What to take for what is still to leave: in the order given, each product until there is enough.
 * What is promised of a mark is left here, even where the promise could be kept from another site:
 * an order is not to wait for a lorry.
 * @param wanted how much of each product, by its code
 * @returns the parts with how much of each, and what is not to be had
 */
export function proposeSending<Row extends Sendable>(
  rows: readonly Row[],
  wanted: ReadonlyMap<string, string>
): { take: { row: Row; quantity: string }[]; short: OrderedLine[] } {
  const open = new Map([...wanted].map(([product, text]) => [product, quantity(text)]));
  const free = freeOfMarks(rows);
  const take: { row: Row; quantity: string }[] = [];
  for (const row of rows) {
    const left = open.get(row.product);
    const mayGo = free.get(row.id)!;
    const part = least(quantity(row.quantity), mayGo, left ?? quantity('0'));
    // Of a serial there is one or none.
    if (!left || part.lte(0) || (row.kind === 'serial' && part.lt(1))) continue;
    open.set(row.product, left.minus(part));
    free.set(row.id, mayGo.minus(part));
    take.push({ row, quantity: formatQuantity(part) });
  }
  const short = [...open]
    .filter(([, left]) => left.gt(0))
    .map(([product, left]) => ({ product, quantity: formatQuantity(left) }));
  return { take, short };
}

/** Of each mark what lies here and is not promised. */
function freeOfMarks(rows: readonly Sendable[]): Map<number, Quantity> {
  const free = new Map<number, Quantity>();
  for (const [id, of] of groupBy(rows, (row) => row.id)) {
    const here = total(of.map((row) => quantity(row.quantity)));
    free.set(id, here.minus(of[0]!.promised));
  }
  return free;
}

const least = (...all: readonly Quantity[]): Quantity =>
  all.reduce((smallest, one) => (one.lt(smallest) ? one : smallest));
