import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { NamedMarks } from '../../core/ledger/request.ts';

/** A mark on hand, as a request would name it. */
export interface OnHandNamed {
  product: string;
  kind: MarkKind;
  number: string | null;
}

/** Marks as a request names them, by product; what has no number is named by its product alone. */
export function asNamed(rows: readonly OnHandNamed[]): NamedMarks[] {
  const products = new Map<string, { lot?: string; serial?: string }[]>();
  for (const { product, kind, number } of rows) {
    const marks = products.get(product) ?? [];
    products.set(product, marks);
    if (number === null) continue;
    marks.push(kind === 'serial' ? { serial: number } : { lot: number });
  }
  return [...products].map(([product, marks]) => ({ product, marks }));
}
