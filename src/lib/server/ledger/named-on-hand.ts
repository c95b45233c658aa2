import type { MarkKind } from '../../core/catalogue/marking.ts';
import { groupBy } from '../../core/group-by.ts';
import type { MarkNamed, NamedMarks } from '../../core/ledger/request.ts';

/** A mark on hand, as a request would name it. */
export interface OnHandNamed {
  product: string;
  kind: MarkKind;
  number: string | null;
}

/** Marks as a request names them, by product; what has no number is named by its product alone. */
export const asNamed = (rows: readonly OnHandNamed[]): NamedMarks[] =>
  [...groupBy(rows, (row) => row.product)].map(([product, of]) => ({
    product,
    marks: of.flatMap<MarkNamed>(({ kind, number }) => {
      if (number === null) return [];
      return kind === 'serial' ? [{ serial: number }] : [{ lot: number }];
    })
  }));
