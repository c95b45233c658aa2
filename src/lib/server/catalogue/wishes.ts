import { NO_WISHES, type CustomerWishes as Wished } from '../../core/catalogue/wishes.ts';
import type { z } from 'zod';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import type { CustomerWishes } from './schemas.ts';
import { notFound, Problem, type FormError } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface WishRecord {
  product: string | null;
  leastDays: number | null;
  leastShare: string | null;
  oneLot: boolean;
  oneDate: boolean;
  tested: boolean;
}

export async function readCustomerWishes(db: Db, partner: string): Promise<WishRecord[]> {
  const rows = await db<WishRecord[]>`
    SELECT p.code AS product, w.least_days AS "leastDays", w.least_share AS "leastShare",
      w.one_lot AS "oneLot", w.one_date AS "oneDate", w.tested
    FROM customer_wish w
      JOIN partner t ON t.id = w.partner_id
      LEFT JOIN product p ON p.id = w.product_id
    WHERE upper(t.code) = ${numberKey(partner)}
    ORDER BY p.code NULLS FIRST
  `;
  return rows.map((row) => ({ ...row, leastShare: row.leastShare && trimZeros(row.leastShare) }));
}

/**
 * Keeps what a customer wishes, in place of what was kept before. @throws Problem 404, 422 naming
 * what is wrong
 */
export async function putWishes(
  sql: Sql | Tx,
  partner: string,
  given: z.infer<typeof CustomerWishes>['wishes']
): Promise<WishRecord[]> {
  return await within(sql, async (tx) => {
    const [customer] = await tx<
      { id: number; code: string; customer: boolean }[]
    >`SELECT id, code, customer FROM partner WHERE upper(code) = ${numberKey(partner)} FOR UPDATE`;
    if (!customer) notFound('partner', partner);
    const errors: FormError[] = [];
    if (!customer.customer)
      errors.push({
        code: 'partner.unknown',
        path: '',
        number: customer.code,
        message: `${customer.code} is not set up as a customer.`
      });
    const products = new Map(
      (
        await tx<{ id: number; code: string }[]>`
          SELECT id, code
          FROM product
          WHERE upper(code) = ANY(
            ${given.flatMap((wish) => (wish.product ? [numberKey(wish.product)] : []))}
          )
        `
      ).map((row) => [numberKey(row.code), row.id])
    );
    const seen = new Set<string>();
    given.forEach((wish, index) => {
      const path = `wishes[${index}]`,
        key = numberKey(wish.product ?? '');
      if (wish.product && !products.has(key))
        errors.push({
          code: 'product.unknown',
          path,
          number: shown(wish.product),
          message: `There is no product ${shown(wish.product)}.`
        });
      if (seen.has(key))
        errors.push({
          code: 'mark.duplicate',
          path,
          number: wish.product ?? '',
          message: `${wish.product ?? 'All products'} stands twice. Put the two together.`
        });
      seen.add(key);
      const share = wish.leastShare === null ? null : parseQuantity(wish.leastShare);
      if (wish.leastShare !== null && (share === null || share.lte(0) || share.gt(100)))
        errors.push({
          code: 'quantity.mismatch',
          path,
          message: `“${shown(wish.leastShare)}” is no share of the shelf life above 0 and up to 100 per cent.`
        });
    });
    if (errors.length > 0)
      throw new Problem(422, 'The wishes cannot be kept like this', errors, 'Nothing was changed.');
    await tx`DELETE FROM customer_wish WHERE partner_id = ${customer.id}`;
    for (const wish of given)
      await tx`
        INSERT INTO customer_wish ${tx({ partner_id: customer.id, product_id: wish.product ? products.get(numberKey(wish.product))! : null, least_days: wish.leastDays, least_share: wish.leastShare, one_lot: wish.oneLot, one_date: wish.oneDate, tested: wish.tested })}
      `;
    return await readCustomerWishes(tx, customer.code);
  });
}

/** What a customer wishes of each of these products. */
export async function readWishes(
  db: Db,
  partner: string | null,
  products: readonly string[]
): Promise<Map<string, Wished>> {
  const rows =
    partner === null
      ? []
      : await db<
          {
            product: string | null;
            least_days: number | null;
            least_share: string | null;
            one_lot: boolean;
            one_date: boolean;
            tested: boolean;
          }[]
        >`
          SELECT p.code AS product, w.least_days, w.least_share, w.one_lot, w.one_date, w.tested
          FROM customer_wish w
            JOIN partner t ON t.id = w.partner_id
            LEFT JOIN product p ON p.id = w.product_id
          WHERE upper(t.code) = ${numberKey(partner)}
        `;
  return new Map(
    products.map((code) => {
      const row =
        rows.find((one) => one.product !== null && numberKey(one.product) === numberKey(code)) ??
        rows.find((one) => one.product === null);
      return [
        code,
        row
          ? {
              leastDays: row.least_days,
              leastShare: row.least_share === null ? null : trimZeros(row.least_share),
              oneLot: row.one_lot,
              oneDate: row.one_date,
              tested: row.tested
            }
          : NO_WISHES
      ];
    })
  );
}
