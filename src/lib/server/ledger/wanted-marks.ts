import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { NamedMarks } from '../../core/ledger/request.ts';
import type { KnownProduct } from '../../core/ledger/snapshot.ts';
import { keyOfNumber } from '../../core/numbers/number.ts';
import { byCode } from './by-code.ts';

/** The keys of the numbers that are named of one product and kind. */
export interface WantedMarks {
  productId: number;
  kind: MarkKind;
  keys: ReadonlySet<string>;
}

/**
 * What a list of named marks can mean, by product and kind; texts that can be no number are left
 * out. A product marked differently now may have lots and serials of before, so both are looked for
 * wherever they are named.
 */
export function wantedMarks(
  products: ReadonlyMap<string, KnownProduct>,
  named: readonly NamedMarks[]
): WantedMarks[] {
  const groups: { productId: number; kind: MarkKind; keys: Set<string> }[] = [];
  const groupOf = (productId: number, kind: MarkKind): Set<string> => {
    const keys = new Set<string>();
    groups.push({ productId, kind, keys });
    return keys;
  };
  const ofProduct = byCode(products, ({ id }) => ({
    lots: groupOf(id, 'lot'),
    serials: groupOf(id, 'serial')
  }));
  for (const { product: code, marks } of named) {
    const keys = ofProduct(code);
    if (!keys) continue;
    for (const { lot, serial } of marks) {
      if (lot !== undefined) addKey(keys.lots, lot);
      if (serial !== undefined) addKey(keys.serials, serial);
    }
  }
  return groups.filter((group) => group.keys.size > 0);
}

function addKey(keys: Set<string>, number: string): void {
  const key = keyOfNumber(number);
  if (key !== null) keys.add(key);
}
