import type { z } from 'zod';
import { gtin14 } from '../../core/gs1/check-digit.ts';
import type { Marking } from '../../core/ledger/snapshot.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import type { Product } from '../api/schemas.ts';
import type { FormError } from '../booking/problem.ts';
import { Problem } from '../booking/problem.ts';
import type { Db, Sql, Tx } from '../db/client.ts';
import { trimZeros } from '../reading/mark-record.ts';
import { cleanCode } from './code.ts';

export interface ProductRecord {
  code: string; name: string; unit: string; decimals: number; made: boolean; marking: Marking;
  shelfLifeDays: number | null; warrantyMonths: number | null; netWeightKg: string | null; gtin: string | null;
  lotScheme: string | null; serialScheme: string | null;
  components: { product: string; name: string; unit: string; marking: Marking; quantity: string }[];
}

export async function readProduct(db: Db, code: string): Promise<ProductRecord | null> {
  const [row] = await db<(Omit<ProductRecord, 'components'> & { id: number })[]>`
    SELECT id, code, name, unit, decimals, made, marking, shelf_life_days AS "shelfLifeDays", warranty_months AS "warrantyMonths", net_weight_kg AS "netWeightKg", gtin,
      (SELECT s.code FROM numbering_scheme s WHERE s.id = lot_scheme_id) AS "lotScheme", (SELECT s.code FROM numbering_scheme s WHERE s.id = serial_scheme_id) AS "serialScheme"
    FROM product WHERE upper(code) = ${numberKey(code)}`;
  if (!row) return null;
  const components = await db<ProductRecord['components']>`
    SELECT p.code AS product, p.name, p.unit, p.marking, b.quantity FROM bill_line b JOIN product p ON p.id = b.component_id WHERE b.product_id = ${row.id} ORDER BY p.code`;
  const { id: _, ...product } = row;
  return { ...product, netWeightKg: row.netWeightKg === null ? null : trimZeros(row.netWeightKg), components: components.map((line) => ({ ...line, quantity: trimZeros(line.quantity) })) };
}

/**
 * Sets a product up or changes it. How it is marked and counted stays as it is once there are marks of it.
 * @throws Problem 422 naming what is wrong
 */
export async function putProduct(sql: Sql, pathCode: string, given: z.infer<typeof Product>): Promise<{ product: ProductRecord; created: boolean }> {
  const code = cleanCode(pathCode, 'product');
  const errors: FormError[] = [];
  const gtin = given.gtin ? gtin14(given.gtin) : null;
  if (given.gtin && gtin === null) errors.push({ code: 'number.malformed', path: 'gtin', number: given.gtin, message: `GTIN ${shown(given.gtin)} is not 8, 12, 13 or 14 digits with a right check digit. Check it against the label.` });
  const weight = given.netWeightKg ? parseQuantity(given.netWeightKg) : null;
  if (given.netWeightKg && (weight === null || weight.lt(0))) errors.push({ code: 'quantity.mismatch', path: 'netWeightKg', message: `“${shown(given.netWeightKg)}” is no weight in kg.` });
  if (given.decimals > 0 && given.marking.startsWith('serial')) errors.push({ code: 'quantity.not-whole', path: 'decimals', message: 'A product with serials is counted in whole units: set decimals to 0, or mark it by lot.' });
  if (errors.length > 0) throw new Problem(422, 'The product cannot be kept like this', errors);
  return await sql.begin(async (tx) => {
    const [before] = await tx<{ id: number; marking: string; decimals: number; unit: string }[]>`SELECT id, marking, decimals, unit FROM product WHERE upper(code) = ${numberKey(code)} FOR UPDATE`;
    if (before && (before.marking !== given.marking || before.decimals > given.decimals || before.unit !== given.unit)) await refuseIfMarked(tx, before.id, code);
    const schemes = await schemeIds(tx, given);
    const columns = {
      ...schemes,
      name: given.name, unit: given.unit, decimals: given.decimals, made: given.made, marking: given.marking, gtin,
      shelf_life_days: given.shelfLifeDays ?? null, warranty_months: given.warrantyMonths ?? null, net_weight_kg: weight?.toFixed() ?? null
    };
    if (gtin !== null) {
      const [other] = await tx<{ code: string }[]>`SELECT code FROM product WHERE gtin = ${gtin} AND upper(code) <> ${numberKey(code)}`;
      if (other) throw new Problem(422, 'The GTIN belongs to another product', [{ code: 'mark.duplicate', path: 'gtin', number: gtin, message: `GTIN ${gtin} is already that of ${other.code}. A GTIN names one product only.` }]);
    }
    const [row] = before
      ? await tx<{ id: number }[]>`UPDATE product SET ${tx(columns)} WHERE id = ${before.id} RETURNING id`
      : await tx<{ id: number }[]>`INSERT INTO product ${tx({ code, ...columns })} ON CONFLICT DO NOTHING RETURNING id`;
    if (!row) throw new Problem(409, 'Somebody set this product up at the same moment', [{ code: 'mark.duplicate', path: 'code', number: code, message: 'Look at it and send your change again.' }]);
    if (given.components) await putComponents(tx, row.id, code, given.components);
    return { product: (await readProduct(tx, code))!, created: !before };
  }) as { product: ProductRecord; created: boolean };
}

/** The schemes named, by id. @throws Problem 422 where one is not there or numbers what the product does not have */
async function schemeIds(tx: Tx, { marking, lotScheme, serialScheme }: Pick<z.infer<typeof Product>, 'marking' | 'lotScheme' | 'serialScheme'>): Promise<{ lot_scheme_id: number | null; serial_scheme_id: number | null }> {
  const rows = await tx<{ id: number; code: string }[]>`SELECT id, code FROM numbering_scheme WHERE upper(code) = ANY(${[lotScheme, serialScheme].flatMap((code) => (code ? [numberKey(code)] : []))})`;
  const idOf = (code: string | null | undefined, path: string, fits: boolean): number | null => {
    if (!code) return null;
    const row = rows.find((one) => numberKey(one.code) === numberKey(code));
    if (!row) throw new Problem(422, 'The numbering scheme is not known', [{ code: 'mark.unknown', path, number: shown(code), message: `There is no numbering scheme ${shown(code)}. Set it up first.` }]);
    if (!fits) throw new Problem(422, 'The numbering scheme does not fit', [{ code: 'number.malformed', path, number: row.code, message: `The product is marked by ${marking === 'none' ? 'quantity only' : marking}, so it has no such numbers. Leave the scheme out.` }]);
    return row.id;
  };
  return { lot_scheme_id: idOf(lotScheme, 'lotScheme', marking === 'lot' || marking === 'serial-in-lot'), serial_scheme_id: idOf(serialScheme, 'serialScheme', marking.startsWith('serial')) };
}

async function refuseIfMarked(tx: Tx, productId: number, code: string): Promise<void> {
  const [some] = await tx<{ count: number }[]>`SELECT count(*) AS count FROM (SELECT 1 FROM mark WHERE product_id = ${productId} LIMIT 1000) m`;
  if (some!.count === 0) return;
  throw new Problem(422, 'Marking and unit cannot be changed any more', [{
    code: 'balance.open', path: 'marking', number: code,
    message: `${code} has ${some!.count >= 1000 ? 'over a thousand' : some!.count} marks in the ledger, booked by its present marking and unit. Set up a new product for what is to be marked differently.`
  }]);
}

async function putComponents(tx: Tx, productId: number, code: string, components: { product: string; quantity: string }[]): Promise<void> {
  const found = new Map((await tx<{ id: number; code: string; decimals: number; unit: string }[]>`
    SELECT id, code, decimals, unit FROM product WHERE upper(code) = ANY(${components.map((line) => numberKey(line.product))})`).map((row) => [numberKey(row.code), row]));
  const errors: FormError[] = [];
  const lines = new Map<number, string>();
  components.forEach((line, index) => {
    const path = `components[${index}]`;
    const component = found.get(numberKey(line.product));
    const amount = parseQuantity(line.quantity);
    if (!component) errors.push({ code: 'product.unknown', path, number: line.product, message: `There is no product ${shown(line.product)}. Set it up first.` });
    else if (amount === null || amount.lte(0)) errors.push({ code: 'quantity.mismatch', path, number: line.product, message: `“${shown(line.quantity)}” is no quantity above zero.` });
    else if (lines.has(component.id)) errors.push({ code: 'mark.duplicate', path, number: line.product, message: `${component.code} stands twice. Put the two quantities together.` });
    else lines.set(component.id, amount.toFixed());
  });
  const loop = errors.length === 0 ? await loopThrough(tx, productId, [...lines.keys()]) : null;
  if (loop) errors.push({ code: 'balance.open', path: 'components', number: code, message: `${code} would go into itself: ${loop}. Take the product out that closes the loop.` });
  if (errors.length > 0) throw new Problem(422, 'The components cannot be kept like this', errors);
  await tx`DELETE FROM bill_line WHERE product_id = ${productId}`;
  if (lines.size > 0) await tx`INSERT INTO bill_line (product_id, component_id, quantity) SELECT ${productId}::bigint, * FROM unnest(${[...lines.keys()]}::bigint[], ${[...lines.values()]}::numeric[])`;
}

/** The path by which a product would come to be in itself, as codes; null where it would not. */
async function loopThrough(tx: Tx, productId: number, components: number[]): Promise<string | null> {
  const [row] = await tx<{ path: string }[]>`
    WITH RECURSIVE down (id, path) AS (
      SELECT p.id, (SELECT code FROM product WHERE id = ${productId}) || ' → ' || p.code FROM product p WHERE p.id = ANY(${components})
      UNION ALL
      SELECT b.component_id, d.path || ' → ' || p.code FROM down d JOIN bill_line b ON b.product_id = d.id JOIN product p ON p.id = b.component_id
      WHERE d.id <> ${productId}
    ) CYCLE id SET looped USING route
    SELECT path FROM down WHERE id = ${productId} LIMIT 1`;
  return row?.path ?? null;
}
