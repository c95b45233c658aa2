import type { CustomerWishes } from '../../core/catalogue/wishes.ts';
import type { KnownProduct } from '../../core/ledger/snapshot.ts';
import { readWishes } from '../catalogue/wishes.ts';
import type { Tx } from '../kernel/db/client.ts';

/** What a customer wishes, by product id; only of products of which they wish anything. */
export async function readWishesOf(
  tx: Tx,
  customer: string,
  products: ReadonlyMap<string, KnownProduct>
): Promise<Map<number, CustomerWishes>> {
  const list = [...products.values()];
  const wishes = await readWishes(
    tx,
    customer,
    list.map((product) => product.code)
  );
  return new Map(
    list.flatMap(({ id, code }) => {
      const wished = wishes.get(code)!;
      return Object.values(wished).some(Boolean) ? [[id, wished] as const] : [];
    })
  );
}
