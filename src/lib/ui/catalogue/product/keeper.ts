import type { Reply } from '../../frame/api.ts';
import { putRecord } from '../../frame/put-record.ts';
import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
import { bodyOf, type ProductBody } from './product-form.ts';

/** Keeps a product with one stretch of it changed: told all of it, answers what is sent. */
export type Keeper = (change: (before: ProductBody) => ProductBody) => Promise<Reply<unknown>>;

/**
 * Keeps what was changed of a product, where it still is what was read: what somebody else changed
 * meanwhile is never sent back as it was before.
 * @param product what is read now
 * @param tag its entity tag
 */
export const keeperOf =
  (product: () => ProductRecord, tag: () => string): Keeper =>
  (change) =>
    putRecord('products', product().code, change(bodyOf(product())), tag());
