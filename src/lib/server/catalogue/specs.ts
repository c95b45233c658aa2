import { NO_SPEC, specFaults, specFor, type Spec } from '../../core/quality/spec.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';

export interface SpecRecord {
  id: number;
  product: string;
  partner: string | null;
  version: number;
  madeAt: string;
  who: string;
  spec: Spec;
}

/** Every spec kept is read with defaults, so that one of before a field was there still counts. */
const whole = (body: Partial<Spec>): Spec => ({ ...NO_SPEC, ...body });

/** The present specs of products: the product's own, and those of customers. */
export async function readSpecs(db: Db, products: readonly string[]): Promise<SpecRecord[]> {
  const rows = await db<
    (Omit<SpecRecord, 'madeAt' | 'spec'> & { madeAt: Date; body: Partial<Spec> })[]
  >`
    SELECT DISTINCT ON (s.product_id, s.partner_id) s.id, p.code AS product, t.code AS partner,
      s.version, s.made_at AS "madeAt", w.name AS who, s.body
    FROM spec s
      JOIN product p ON p.id = s.product_id
      LEFT JOIN partner t ON t.id = s.partner_id
      JOIN person w ON w.id = s.made_by
    WHERE upper(p.code) = ANY(${products.map(numberKey)})
    ORDER BY s.product_id, s.partner_id NULLS FIRST, s.version DESC
  `;
  return rows.map(({ body, ...row }) => ({
    ...row,
    madeAt: row.madeAt.toISOString(),
    spec: whole(body)
  }));
}

/**
 * Of specs, the one of a product itself, or of a customer for it; null where there is none.
 * @param partner code of the customer; null for the product's own
 */
export const specOf = (
  specs: readonly SpecRecord[],
  product: string,
  partner: string | null
): SpecRecord | null =>
  specs.find(
    (one) =>
      numberKey(one.product) === numberKey(product) &&
      numberKey(one.partner ?? '') === numberKey(partner ?? '')
  ) ?? null;

/** The same, read: the present version of a product's limits, or of a customer's for it. */
export const readSpec = async (
  db: Db,
  product: string,
  partner: string | null
): Promise<SpecRecord | null> => specOf(await readSpecs(db, [product]), product, partner);

/**
 * The limits that count for a product and a customer; by the product alone where no customer is
 * named. Null where there are none.
 */
export function limitsFor(
  specs: readonly SpecRecord[],
  product: string,
  partner: string | null
): Spec | null {
  const of = (code: string | null) => specOf(specs, product, code)?.spec ?? null;
  return specFor(of(null), partner === null ? null : of(partner));
}

/** Keeps a spec as a new version. @throws Problem 404, 422 with everything that is wrong */
export async function putSpec(
  sql: Sql | Tx,
  actor: Actor,
  product: string,
  partner: string | null,
  spec: Spec
): Promise<SpecRecord> {
  const faults = specFaults(spec);
  if (faults.length > 0)
    throw new Problem(
      422,
      'The spec cannot be kept like this',
      faults.map((message) => ({ code: 'mark.off-spec', path: 'limits', message })),
      'Nothing was changed.'
    );
  return await within(sql, async (tx) => {
    const [row] = await tx<
      { id: number; code: string }[]
    >`SELECT id, code FROM product WHERE upper(code) = ${numberKey(product)} FOR UPDATE`;
    if (!row) notFound('product', product);
    const [customer] =
      partner === null
        ? [null]
        : await tx<
            { id: number; code: string; customer: boolean }[]
          >`SELECT id, code, customer FROM partner WHERE upper(code) = ${numberKey(partner)}`;
    if (partner !== null && !customer) notFound('partner', partner);
    if (customer && !customer.customer)
      throw new Problem(422, 'The partner is no customer', [
        {
          code: 'partner.unknown',
          path: 'partner',
          number: customer.code,
          message: `${customer.code} is not set up as a customer.`
        }
      ]);
    await tx`
      INSERT INTO spec (product_id, partner_id, version, body, made_by)
      SELECT ${row.id}::bigint, ${customer?.id ?? null}::bigint, coalesce(max(version), 0) + 1,
        ${tx.json(spec as never)}, ${actor.personId}
      FROM spec
      WHERE product_id = ${row.id} AND partner_id IS NOT DISTINCT FROM ${customer?.id ?? null}
    `;
    return (await readSpec(tx, row.code, customer?.code ?? null))!;
  });
}
