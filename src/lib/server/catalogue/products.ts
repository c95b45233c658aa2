import type { z } from 'zod';
import { groupBy } from '../../core/group-by.ts';
import { gtin14 } from '../../core/gs1/check-digit.ts';
import type { MarkKind, Marking } from '../../core/catalogue/marking.ts';
import {
  identityChange,
  SAY_IDENTITY,
  type IdentityChange,
  type OnHandByKind
} from '../../core/catalogue/identity-change.ts';
import { hasLots, hasSerials } from '../../core/catalogue/plan.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import type { ProductRecord } from '../../core/catalogue/product-record.ts';
import type { Product } from './schemas.ts';
import type { FormError } from '../kernel/problem.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import type { BillPart } from '../../core/catalogue/bill.ts';
import { today } from '../kernel/clock.ts';
import { inForce, putBill, readBill } from './bills.ts';
import { cleanCode } from '../kernel/code.ts';

/** The columns of a product that hold exact decimals, by their name in the record. */
export const PRODUCT_DECIMALS = [
  'netWeightKg',
  'grossWeightKg',
  'lengthCm',
  'widthCm',
  'heightCm',
  'overReceiptPercent'
] as const;

export async function readProduct(db: Db, code: string): Promise<ProductRecord | null> {
  const [product] = await readProducts(db, [code]);
  return product ?? null;
}

/** Products by code, or all of them in the order of their codes. */
export async function readProducts(
  db: Db,
  codes: readonly string[] | null
): Promise<ProductRecord[]> {
  const rows = await db<(Omit<ProductRecord, 'components' | 'units'> & { id: number })[]>`
    SELECT id, code, name, unit, decimals, made, marking, shelf_life_days AS "shelfLifeDays",
      warranty_months AS "warrantyMonths", gtin, net_weight_kg AS "netWeightKg",
      gross_weight_kg AS "grossWeightKg", length_cm AS "lengthCm", width_cm AS "widthCm",
      height_cm AS "heightCm", over_receipt_percent AS "overReceiptPercent",
      (SELECT m.code FROM marking_plan m WHERE m.id = plan_id) AS plan,
      (SELECT s.code FROM numbering_scheme s WHERE s.id = lot_scheme_id) AS "lotScheme",
      (SELECT s.code FROM numbering_scheme s WHERE s.id = serial_scheme_id) AS "serialScheme"
    FROM product ${codes ? db`WHERE upper(code) = ANY(${codes.map(numberKey)})` : db``}
    ORDER BY code
  `;
  const ids = rows.map((row) => row.id);
  const components = await db<(ProductRecord['components'][number] & { product_id: number })[]>`
    SELECT f.id AS product_id, p.code AS product, p.name, p.unit, p.marking, l.quantity
    FROM product f
      JOIN bill_part l ON l.bill_id = ${inForce(db, db`f.id`, today())}
      JOIN product p ON p.id = l.component_id
    WHERE f.id = ANY(${ids})
    ORDER BY l.line
  `;
  const units = await db<(ProductRecord['units'][number] & { product_id: number })[]>`
    SELECT product_id, name, holds, gtin
    FROM product_unit
    WHERE product_id = ANY(${ids})
    ORDER BY holds, name
  `;
  const componentsOf = groupBy(components, (line) => line.product_id),
    unitsOf = groupBy(units, (unit) => unit.product_id);
  return rows.map(({ id, ...row }) => {
    for (const key of PRODUCT_DECIMALS) if (row[key] !== null) row[key] = trimZeros(row[key]);
    return {
      ...row,
      components: (componentsOf.get(id) ?? []).map(({ product_id: _, ...line }) => ({
        ...line,
        quantity: trimZeros(line.quantity)
      })),
      units: (unitsOf.get(id) ?? []).map(({ product_id: _, ...unit }) => ({
        ...unit,
        holds: trimZeros(unit.holds)
      }))
    };
  });
}

type Given = z.infer<typeof Product>;

/**
 * Sets a product up or changes it. Unit and decimals stay as they are once there are marks of it;
 * how it is marked may become finer, and coarser only where nothing on hand would be stuck
 * (core/catalogue/identity-change.ts).
 * @throws Problem 422 naming what is wrong
 */
export async function putProduct(
  sql: Sql | Tx,
  pathCode: string,
  given: Given
): Promise<{ product: ProductRecord; created: boolean }> {
  return await within(sql, (tx) => keepProduct(tx, pathCode, given));
}

async function keepProduct(
  tx: Tx,
  pathCode: string,
  given: Given
): Promise<{ product: ProductRecord; created: boolean }> {
  const code = cleanCode(pathCode, 'product');
  const [before] = await tx<{ id: number; marking: Marking; decimals: number; unit: string }[]>`
    SELECT id, marking, decimals, unit
    FROM product
    WHERE upper(code) = ${numberKey(code)}
    FOR UPDATE
  `;
  const plan = given.plan ? await planNamed(tx, given.plan) : null;
  const marking = plan?.identity ?? given.marking;
  const errors: FormError[] = [];
  const add = (fault: string, path: string, message: string, number?: string) =>
    errors.push({ code: fault, path, message, ...(number === undefined ? {} : { number }) });
  if (!marking) add('mark.missing', 'marking', 'Say how it is marked, or name a marking plan.');
  if (plan && given.marking && given.marking !== plan.identity)
    add(
      'mark.wrong-product',
      'marking',
      `The plan ${plan.code} marks ${SAY_IDENTITY[plan.identity]}, and here ${given.marking} is said. Make the two the same, or leave the marking out.`,
      plan.code
    );
  const gtin = readGtin(given.gtin, 'gtin', add);
  const amounts = Object.fromEntries(
    PRODUCT_DECIMALS.map((key) => [key, readMeasure(given[key], key, add)])
  ) as Record<(typeof PRODUCT_DECIMALS)[number], string | null>;
  if (Number(amounts.netWeightKg) > Number(amounts.grossWeightKg ?? Infinity))
    add(
      'quantity.mismatch',
      'grossWeightKg',
      'The gross weight is below the net weight. Gross is with its packing.'
    );
  if (given.decimals > 0 && marking !== undefined && hasSerials(marking))
    add(
      'quantity.not-whole',
      'decimals',
      'A product with serials is counted in whole units: set decimals to 0, or mark it by lot.'
    );
  const units = (given.units ?? []).map((unit, index) => readUnit(given, unit, index, add));
  if (errors.length > 0 || !marking)
    throw new Problem(422, 'The product cannot be kept like this', errors);

  if (before && (before.decimals > given.decimals || before.unit !== given.unit))
    await refuseIfMarked(tx, before.id, code);
  if (before && before.marking !== marking) {
    const change = identityChange(
      code,
      before.marking,
      marking,
      await onHandByKind(tx, before.id, given.unit)
    );
    if (!change.may)
      throw new Problem(422, 'The marking cannot be changed to that', [
        { code: 'balance.open', path: 'marking', number: code, message: change.says.join(' ') }
      ]);
  }
  await refuseTakenGtins(tx, code, [gtin, ...units.map((unit) => unit.gtin)]);
  const columns = {
    ...(await schemeIds(tx, marking, given)),
    plan_id: plan?.id ?? null,
    name: given.name,
    unit: given.unit,
    decimals: given.decimals,
    made: given.made,
    marking,
    gtin,
    shelf_life_days: given.shelfLifeDays ?? null,
    warranty_months: given.warrantyMonths ?? null,
    net_weight_kg: amounts.netWeightKg,
    gross_weight_kg: amounts.grossWeightKg,
    length_cm: amounts.lengthCm,
    width_cm: amounts.widthCm,
    height_cm: amounts.heightCm,
    over_receipt_percent: amounts.overReceiptPercent ?? '0'
  };
  const [row] = before
    ? await tx<
        { id: number }[]
      >`UPDATE product SET ${tx(columns)} WHERE id = ${before.id} RETURNING id`
    : await tx<
        { id: number }[]
      >`INSERT INTO product ${tx({ code, ...columns })} ON CONFLICT DO NOTHING RETURNING id`;
  if (!row)
    throw new Problem(409, 'Somebody set this product up at the same moment', [
      {
        code: 'mark.duplicate',
        path: 'code',
        number: code,
        message: 'Look at it and send your change again.'
      }
    ]);
  if (given.units) {
    await tx`DELETE FROM product_unit WHERE product_id = ${row.id}`;
    if (units.length > 0)
      await tx`
        INSERT INTO product_unit ${tx(units.map((unit) => ({ product_id: row.id, ...unit })))}
      `;
  }
  if (given.components) await putComponents(tx, code, given.components);
  return { product: (await readProduct(tx, code))!, created: !before };
}

type Add = (code: string, path: string, message: string, number?: string) => void;

function readGtin(text: string | null | undefined, path: string, add: Add): string | null {
  if (!text) return null;
  const gtin = gtin14(text);
  if (gtin === null)
    add(
      'number.malformed',
      path,
      `GTIN ${shown(text)} is not 8, 12, 13 or 14 digits with a right check digit. Check it against the label.`,
      text
    );
  return gtin;
}

function readMeasure(
  text: string | null | undefined,
  key: (typeof PRODUCT_DECIMALS)[number],
  add: Add
): string | null {
  if (!text?.trim()) return null;
  const value = parseQuantity(text);
  const says = {
    netWeightKg: 'weight in kg',
    grossWeightKg: 'weight in kg',
    lengthCm: 'length in cm',
    widthCm: 'width in cm',
    heightCm: 'height in cm',
    overReceiptPercent: 'tolerance from 0 to 100 per cent'
  }[key];
  const good =
    value !== null &&
    (key.endsWith('Cm') ? value.gt(0) : value.gte(0)) &&
    (key !== 'overReceiptPercent' || value.lte(100));
  if (!good) add('quantity.mismatch', key, `“${shown(text)}” is no ${says}.`);
  return good ? value.toFixed() : null;
}

function readUnit(
  given: Given,
  unit: NonNullable<Given['units']>[number],
  index: number,
  add: Add
): { name: string; holds: string; gtin: string | null } {
  const path = `units[${index}]`;
  const holds = parseQuantity(unit.holds);
  if (holds === null || holds.lte(0))
    add(
      'quantity.mismatch',
      path,
      `“${shown(unit.holds)}” is no number of ${given.unit} in one ${unit.name}.`
    );
  else if (holds.decimalPlaces() > given.decimals)
    add(
      'quantity.not-whole',
      path,
      `A ${unit.name} holds ${unit.holds} ${given.unit}, which is finer than the product is counted.`
    );
  if (numberKey(unit.name) === numberKey(given.unit))
    add('mark.duplicate', path, `${unit.name} is the product's own unit. Name another.`, unit.name);
  if (given.units!.findIndex((other) => numberKey(other.name) === numberKey(unit.name)) !== index)
    add('mark.duplicate', path, `The unit ${unit.name} stands twice. Take one out.`, unit.name);
  return {
    name: unit.name,
    holds: holds?.toFixed() ?? '0',
    gtin: readGtin(unit.gtin, `${path}.gtin`, add)
  };
}

/** A GTIN names one product, or one unit of one. @throws Problem 422 */
async function refuseTakenGtins(
  tx: Tx,
  code: string,
  given: readonly (string | null)[]
): Promise<void> {
  const gtins = given.filter((gtin) => gtin !== null);
  const twice = gtins.find((gtin, at) => gtins.indexOf(gtin) !== at);
  if (twice)
    throw new Problem(422, 'One GTIN stands twice', [
      {
        code: 'mark.duplicate',
        path: 'gtin',
        number: twice,
        message: `GTIN ${twice} is given to two units of ${code}. A pack has a GTIN of its own.`
      }
    ]);
  const [other] =
    gtins.length === 0
      ? []
      : await tx<{ code: string; gtin: string }[]>`
        SELECT code, gtin
        FROM product
        WHERE gtin = ANY(${gtins}) AND upper(code) <> ${numberKey(code)}
        UNION ALL
        SELECT p.code, u.gtin
        FROM product_unit u
          JOIN product p ON p.id = u.product_id
        WHERE u.gtin = ANY(${gtins}) AND upper(p.code) <> ${numberKey(code)}
        LIMIT 1
      `;
  if (other)
    throw new Problem(422, 'The GTIN belongs to another product', [
      {
        code: 'mark.duplicate',
        path: 'gtin',
        number: other.gtin,
        message: `GTIN ${other.gtin} is already that of ${other.code}. A GTIN names one product only.`
      }
    ]);
}

/** The plan a product names, with its present version's identity. @throws Problem 422 */
async function planNamed(
  tx: Tx,
  code: string
): Promise<{ id: number; code: string; identity: Marking }> {
  const [plan] = await tx<{ id: number; code: string; identity: Marking }[]>`
    SELECT m.id, m.code, v.body ->> 'identity' AS identity
    FROM marking_plan m
      JOIN LATERAL (
        SELECT body FROM marking_plan_version WHERE plan_id = m.id ORDER BY version DESC LIMIT 1
      ) v ON true
    WHERE upper(m.code) = ${numberKey(code)}
  `;
  if (!plan)
    throw new Problem(422, 'The marking plan is not known', [
      {
        code: 'mark.unknown',
        path: 'plan',
        number: shown(code),
        message: `There is no marking plan ${shown(code)}. Set it up first, or leave it out.`
      }
    ]);
  return plan;
}

/** What is on hand of a product by kind of mark, for the consequences of marking it differently. */
export async function onHandByKind(db: Db, productId: number, unit: string): Promise<OnHandByKind> {
  const rows = await db<{ kind: MarkKind; amount: string; marks: number }[]>`
    SELECT m.kind, sum(s.quantity) AS amount, count(DISTINCT m.id)::int AS marks
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
    WHERE m.product_id = ${productId} AND s.quantity > 0
    GROUP BY m.kind
  `;
  return Object.fromEntries(
    rows.map((row) => [row.kind, { amount: `${trimZeros(row.amount)} ${unit}`, marks: row.marks }])
  );
}

/** What marking a product differently would mean, before it is done. @throws Problem 404 */
export async function consequencesOf(
  db: Db,
  code: string,
  to: Marking
): Promise<IdentityChange & { from: Marking }> {
  const [product] = await db<
    { id: number; code: string; marking: Marking; unit: string }[]
  >`SELECT id, code, marking, unit FROM product WHERE upper(code) = ${numberKey(code)}`;
  if (!product) notFound('product', code);
  return {
    from: product.marking,
    ...identityChange(
      product.code,
      product.marking,
      to,
      await onHandByKind(db, product.id, product.unit)
    )
  };
}

/**
 * The schemes named, by id. @throws Problem 422 where one is not there or numbers what the product
 * does not have
 */
async function schemeIds(
  tx: Tx,
  marking: Marking,
  { lotScheme, serialScheme }: Pick<Given, 'lotScheme' | 'serialScheme'>
): Promise<{ lot_scheme_id: number | null; serial_scheme_id: number | null }> {
  const rows = await tx<{ id: number; code: string }[]>`
    SELECT id, code
    FROM numbering_scheme
    WHERE upper(code) = ANY(
      ${[lotScheme, serialScheme].flatMap((code) => (code ? [numberKey(code)] : []))}
    )
  `;
  const idOf = (code: string | null | undefined, path: string, fits: boolean): number | null => {
    if (!code) return null;
    const row = rows.find((one) => numberKey(one.code) === numberKey(code));
    if (!row)
      throw new Problem(422, 'The numbering scheme is not known', [
        {
          code: 'mark.unknown',
          path,
          number: shown(code),
          message: `There is no numbering scheme ${shown(code)}. Set it up first.`
        }
      ]);
    if (!fits)
      throw new Problem(422, 'The numbering scheme does not fit', [
        {
          code: 'number.malformed',
          path,
          number: row.code,
          message: `The product is marked by ${marking === 'none' ? 'quantity only' : marking}, so it has no such numbers. Leave the scheme out.`
        }
      ]);
    return row.id;
  };
  return {
    lot_scheme_id: idOf(lotScheme, 'lotScheme', hasLots(marking)),
    serial_scheme_id: idOf(serialScheme, 'serialScheme', hasSerials(marking))
  };
}

async function refuseIfMarked(tx: Tx, productId: number, code: string): Promise<void> {
  const [some] = await tx<{ count: number }[]>`
    SELECT count(*) AS count FROM (SELECT 1 FROM mark WHERE product_id = ${productId} LIMIT 1000) m
  `;
  if (some!.count === 0) return;
  throw new Problem(422, 'The unit cannot be changed any more', [
    {
      code: 'balance.open',
      path: 'unit',
      number: code,
      message: `${code} has ${some!.count >= 1000 ? 'over a thousand' : some!.count} marks in the ledger, booked in its present unit. Add another unit to it, or set up a new product for what is counted differently.`
    }
  ]);
}

/**
 * The plain way to say what a product takes: the bill in force keeps what it says of a part beside
 * the quantity.
 */
async function putComponents(
  tx: Tx,
  code: string,
  components: readonly { product: string; quantity: string }[]
): Promise<void> {
  const present = await readBill(tx, code, { day: today() });
  const before = new Map((present?.parts ?? []).map((part) => [numberKey(part.product), part]));
  const markings = new Map(
    (
      await tx<{ code: string; marking: Marking }[]>`
        SELECT code, marking
        FROM product
        WHERE upper(code) = ANY(${components.map((line) => numberKey(line.product))})
      `
    ).map((row) => [numberKey(row.code), row.marking])
  );
  const parts = components.map((line): BillPart => {
    const old = before.get(numberKey(line.product));
    return {
      per: 'unit',
      scrapPercent: '0',
      follow: markings.get(numberKey(line.product)) === 'none' ? 'drawn' : 'unit',
      positions: [],
      alternates: [],
      revision: null,
      ...old,
      ...line
    };
  });
  try {
    await putBill(
      tx,
      code,
      {
        batch: present?.batch ?? null,
        note: present?.note ?? '',
        coProducts: present?.coProducts ?? [],
        parts
      },
      null
    );
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    throw new Problem(
      error.status,
      'The components cannot be kept like this',
      error.errors.map((one) => ({ ...one, path: one.path.replace(/^parts/, 'components') }))
    );
  }
}
