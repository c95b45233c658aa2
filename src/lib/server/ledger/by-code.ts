import { codeKey, type KnownProduct } from '../../core/ledger/snapshot.ts';

/** What is worked out once for each product, by its code as ten thousand lines write it. */
export function byCode<T>(
  products: ReadonlyMap<string, KnownProduct>,
  of: (product: KnownProduct) => T
): (code: string) => T | undefined {
  const made = new Map([...products].map(([key, product]) => [key, of(product)]));
  const byCode = new Map<string, T | undefined>();
  return (code) => {
    if (!byCode.has(code)) byCode.set(code, made.get(codeKey(code)));
    return byCode.get(code);
  };
}
