import { billFaults, type Bill, type BillPart, type CoProduct } from '../../core/catalogue/bill.ts';
import type { KnownBill } from '../../core/ledger/snapshot.ts';
import type { Component } from '../../core/catalogue/positions.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { hasSerials } from '../../core/catalogue/plan.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import { Problem, notFound, type FormError } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { today } from '../kernel/clock.ts';

/** A bill as it is given; codes as typed, quantities as decimal strings. */
export type GivenBill = Omit<Bill, 'product' | 'version' | 'validFrom' | 'addedCost'> & {
  validFrom?: string;
  addedCost?: string | null;
};

interface BillRow {
  id: number;
  product: string;
  version: number;
  validFrom: string;
  batch: string | null;
  addedCost: string | null;
  note: string;
}
interface PartRow {
  bill_id: number;
  product: string;
  quantity: string;
  per: BillPart['per'];
  scrapPercent: string;
  follow: BillPart['follow'];
  positions: string[];
  alternates: string[];
  revision: string | null;
}

/**
 * The bill of a product that is in force on a day, as a fragment giving its id; before the first
 * one's day the first one counts.
 */
export const inForce = (db: Db, product: ReturnType<Db>, day: string | ReturnType<Db>) =>
  db`
    (
      SELECT b.id
      FROM bill b
      WHERE b.product_id = ${product}
      ORDER BY
        (b.valid_from <= ${day}::date) DESC, abs(b.valid_from - ${day}::date), b.version DESC
      LIMIT 1
    )
  `;

async function billsByIds(db: Db, ids: readonly number[]): Promise<Map<number, Bill>> {
  const [heads, parts, co] = await Promise.all([
    db<BillRow[]>`
      SELECT b.id, p.code AS product, b.version, b.valid_from AS "validFrom", b.batch,
        b.added_cost AS "addedCost", b.note
      FROM bill b
        JOIN product p ON p.id = b.product_id
      WHERE b.id = ANY(${ids as number[]})
    `,
    db<PartRow[]>`
      SELECT l.bill_id, p.code AS product, l.quantity, l.per, l.scrap_percent AS "scrapPercent",
        l.follow, l.positions, l.revision,
        CASE WHEN l.alternates = '{}' THEN '{}' ELSE (
          SELECT array_agg(a.code::text ORDER BY x.at)
          FROM unnest(l.alternates) WITH ORDINALITY x (id, at)
            JOIN product a ON a.id = x.id
        ) END AS alternates
      FROM bill_part l
        JOIN product p ON p.id = l.component_id
      WHERE l.bill_id = ANY(${ids as number[]})
      ORDER BY l.bill_id, l.line
    `,
    db<(CoProduct & { bill_id: number })[]>`
      SELECT c.bill_id, p.code AS product, c.quantity, c.share
      FROM bill_co_product c
        JOIN product p ON p.id = c.product_id
      WHERE c.bill_id = ANY(${ids as number[]})
      ORDER BY p.code
    `
  ]);
  const partsOf = groupBy(parts, (part) => part.bill_id),
    coOf = groupBy(co, (one) => one.bill_id);
  return new Map(
    heads.map(({ id, batch, addedCost, ...head }) => [
      id,
      {
        ...head,
        batch: batch === null ? null : trimZeros(batch),
        addedCost: addedCost === null ? null : trimZeros(addedCost),
        parts: (partsOf.get(id) ?? []).map(({ bill_id: _, ...part }) => ({
          ...part,
          quantity: trimZeros(part.quantity),
          scrapPercent: trimZeros(part.scrapPercent)
        })),
        coProducts: (coOf.get(id) ?? []).map(({ bill_id: _, ...one }) => ({
          ...one,
          quantity: trimZeros(one.quantity),
          share: trimZeros(one.share)
        }))
      }
    ])
  );
}

/**
 * The bills in force on a day of those products that have one.
 * @param codes folded codes of products
 * @param day `YYYY-MM-DD`
 */
export async function billsInForce(
  db: Db,
  codes: readonly string[],
  day: string
): Promise<KnownBill[]> {
  if (codes.length === 0) return [];
  const rows = await db<{ bill: number; ids: Record<string, number> }[]>`
    SELECT b.id AS bill,
      (
        SELECT jsonb_object_agg(upper(c.code), c.id)
        FROM bill_part l
          JOIN product c ON c.id = l.component_id OR c.id = ANY(l.alternates)
        WHERE l.bill_id = b.id
      ) AS ids
    FROM product p
      JOIN bill b ON b.id = ${inForce(db, db`p.id`, day)}
    WHERE upper(p.code) = ANY(${codes as string[]})
  `;
  const bills = await billsByIds(
    db,
    rows.map((row) => row.bill)
  );
  return rows.map((row) => ({
    bill: bills.get(row.bill)!,
    ids: new Map(Object.entries(row.ids ?? {}))
  }));
}

export async function billById(db: Db, id: number): Promise<Bill | null> {
  return (await billsByIds(db, [id])).get(id) ?? null;
}

/** A version of a product's bill, or the one in force on a day; null where there is none. */
export async function readBill(
  db: Db,
  product: string,
  which: { version: number } | { day: string }
): Promise<(Bill & { id: number }) | null> {
  const [row] =
    'version' in which
      ? await db<{ id: number | null }[]>`
        SELECT b.id
        FROM bill b
          JOIN product p ON p.id = b.product_id
        WHERE upper(p.code) = ${numberKey(product)} AND b.version = ${which.version}
      `
      : await db<{ id: number | null }[]>`
        SELECT ${inForce(db, db`p.id`, which.day)} AS id
        FROM product p
        WHERE upper(p.code) = ${numberKey(product)}
      `;
  const bill = row?.id == null ? null : await billById(db, row.id);
  return bill && { ...bill, id: row!.id! };
}

export interface BillVersion {
  version: number;
  validFrom: string;
  madeAt: string;
  who: string | null;
  note: string;
  parts: number;
  orders: number;
}

/** All versions of a product's bill, latest first. */
export async function billVersions(db: Db, product: string): Promise<BillVersion[]> {
  const rows = await db<(Omit<BillVersion, 'madeAt'> & { madeAt: Date })[]>`
    SELECT b.version, b.valid_from AS "validFrom", b.made_at AS "madeAt", w.name AS who, b.note,
      (SELECT count(*)::int FROM bill_part l WHERE l.bill_id = b.id) AS parts,
      (SELECT count(*)::int FROM trade_order o WHERE o.bill_id = b.id) AS orders
    FROM bill b
      JOIN product p ON p.id = b.product_id
      LEFT JOIN person w ON w.id = b.made_by
    WHERE upper(p.code) = ${numberKey(product)}
    ORDER BY b.version DESC
  `;
  return rows.map((row) => ({ ...row, madeAt: row.madeAt.toISOString() }));
}

/**
 * The bills of a product and of all that goes into it, in force on a day, by product code. One
 * walk, however many levels.
 */
export async function readBillTree(
  db: Db,
  product: string,
  day: string
): Promise<Map<string, Bill>> {
  const rows = await db<{ id: number }[]>`
    WITH RECURSIVE present AS MATERIALIZED (
      SELECT DISTINCT ON (b.product_id) b.id, b.product_id
      FROM bill b
      ORDER BY b.product_id, (b.valid_from <= ${day}) DESC, abs(b.valid_from - ${day}::date),
        b.version DESC
    ),
      down (id) AS (
        SELECT b.id
        FROM product p
          JOIN present b ON b.product_id = p.id
        WHERE upper(p.code) = ${numberKey(product)}
        UNION
        SELECT b.id
        FROM down d
          JOIN bill_part l ON l.bill_id = d.id
          JOIN present b ON b.product_id = l.component_id
      )
    SELECT id
    FROM down
  `;
  return new Map(
    [
      ...(
        await billsByIds(
          db,
          rows.map((row) => row.id)
        )
      ).values()
    ].map((bill) => [bill.product, bill])
  );
}

export interface WhereUsed {
  product: string;
  name: string;
  version: number;
  quantity: string;
  unit: string;
  as: 'part' | 'alternate';
  level: number;
  path: string[];
}

/** Most products that are told to use another. */
const MOST_USES = 500;

/**
 * Every product that something goes into, directly or through others, by the bills in force on a
 * day; the nearest first, and whether there are more than are listed.
 */
export async function whereUsed(
  db: Db,
  product: string,
  day: string
): Promise<{ rows: WhereUsed[]; more: boolean }> {
  const rows = await db<WhereUsed[]>`
    WITH RECURSIVE present AS (
      SELECT DISTINCT ON (b.product_id) b.id, b.product_id, b.version
      FROM bill b
      ORDER BY b.product_id, (b.valid_from <= ${day}) DESC, abs(b.valid_from - ${day}::date),
        b.version DESC
    ),
      up (id, version, quantity, unit, "as", level, path, ids) AS (
        SELECT b.product_id, b.version, l.quantity, p.unit,
          CASE WHEN l.component_id = p.id THEN 'part' ELSE 'alternate' END, 1, ARRAY[p.code::text],
          ARRAY[p.id]
        FROM product p
          JOIN bill_part l ON l.component_id = p.id OR l.alternates @> ARRAY[p.id]
          JOIN present b ON b.id = l.bill_id
        WHERE upper(p.code) = ${numberKey(product)}
        UNION ALL
        SELECT b.product_id, b.version, l.quantity, p.unit,
          CASE WHEN l.component_id = p.id THEN 'part' ELSE 'alternate' END, u.level + 1,
          u.path || p.code::text, u.ids || p.id
        FROM up u
          JOIN product p ON p.id = u.id
          JOIN bill_part l ON l.component_id = p.id OR l.alternates @> ARRAY[p.id]
          JOIN present b ON b.id = l.bill_id
        WHERE u.level < 20 AND NOT p.id = ANY(u.ids)
      )
    SELECT p.code AS product, p.name, u.version, u.quantity, u.unit, u.as, u.level, u.path
    FROM up u
      JOIN product p ON p.id = u.id
    ORDER BY u.level, p.code
    LIMIT ${MOST_USES + 1}
  `;
  return {
    rows: rows.slice(0, MOST_USES).map((row) => ({ ...row, quantity: trimZeros(row.quantity) })),
    more: rows.length > MOST_USES
  };
}

/**
 * The parts of a bill as `Component`s in one JSON value, as a fragment: for a statement that is
 * waited for.
 */
export const componentsAsJson = (db: Db, bill: ReturnType<Db>) => db`
  (
    SELECT json_agg(
      json_build_object(
        'product', p.code, 'name', p.name, 'unit', p.unit, 'marking', p.marking, 'quantity',
          trim_scale(l.quantity)::text, 'per', l.per, 'scrapPercent',
          trim_scale(l.scrap_percent)::text, 'follow', l.follow, 'positions', l.positions,
          'revision', l.revision, 'alternates', coalesce(x.codes, '[]'), 'others',
          coalesce(x.others, '[]')
      ) ORDER BY l.line
    )
    FROM bill_part l
      JOIN product p ON p.id = l.component_id
      LEFT JOIN LATERAL (
        SELECT json_agg(a.code ORDER BY o.at) AS codes,
          json_agg(
            json_build_object('product', a.code, 'name', a.name, 'marking', a.marking) ORDER BY o.at
          ) AS others
        FROM unnest(l.alternates) WITH ORDINALITY o (id, at)
          JOIN product a ON a.id = o.id
      ) x ON l.alternates <> '{}'
    WHERE l.bill_id = ${bill}
  )
`;

/** The parts of a bill with what the sheets need to know of each product. */
export async function componentsOf(db: Db, bill: Bill | null): Promise<Component[]> {
  if (!bill) return [];
  const codes = bill.parts.flatMap((part) => [part.product, ...part.alternates]);
  const products = new Map(
    (
      await db<
        { code: string; name: string; unit: string; marking: Marking }[]
      >`SELECT code, name, unit, marking FROM product WHERE code = ANY(${codes})`
    ).map((row) => [row.code, row])
  );
  return bill.parts.map((part) => {
    const { name, unit, marking } = products.get(part.product)!;
    return {
      ...part,
      name,
      unit,
      marking,
      others: part.alternates.map((other) => ({
        product: other,
        name: products.get(other)!.name,
        marking: products.get(other)!.marking
      }))
    };
  });
}

/**
 * Keeps a bill as a new version; the same as the version in force is not kept twice.
 * @param madeBy who changes it
 * @throws Problem 404 for an unknown product, 422 with everything that is wrong: unknown parts,
 * quantities finer than a part is counted, a loop with its path
 */
export async function putBill(
  sql: Sql | Tx,
  code: string,
  given: GivenBill,
  madeBy: number | null
): Promise<{ bill: Bill; created: boolean }> {
  return await within(sql, async (tx) => {
    const [product] = await tx<
      { id: number; code: string; made: boolean }[]
    >`SELECT id, code, made FROM product WHERE upper(code) = ${numberKey(code)} FOR UPDATE`;
    if (!product) notFound('product', code);
    const validFrom = given.validFrom ?? today();
    const errors: FormError[] = billFaults({ product: product.code, ...given }).map((fault) => ({
      ...fault,
      number: shown(fault.number)
    }));
    const known = await knownProducts(tx, [
      ...given.parts.flatMap((part) => [part.product, ...part.alternates]),
      ...given.coProducts.map((co) => co.product)
    ]);
    given.parts.forEach((part, index) => checkPart(part, `parts[${index}]`, known, errors));
    given.coProducts.forEach((co, index) =>
      checkQuantity(co.product, co.quantity, `coProducts[${index}]`, known, errors)
    );
    const idOf = (one: string) => known.get(numberKey(one))!.id;
    if (errors.length === 0) {
      const loop = await loopThrough(
        tx,
        product.id,
        given.parts.flatMap((part) => [part.product, ...part.alternates].map(idOf)),
        validFrom
      );
      if (loop)
        errors.push({
          code: 'balance.open',
          path: 'parts',
          number: product.code,
          message: `${product.code} would go into itself: ${loop}. Take the product out that closes the loop.`
        });
    }
    if (errors.length > 0)
      throw new Problem(
        422,
        'The bill cannot be kept like this',
        errors.sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0)),
        'Nothing was changed.'
      );
    const present = await readBill(tx, product.code, { day: validFrom });
    // Whoever does not see costs leaves them out: they stay what they were.
    const addedCost =
      given.addedCost === undefined ? (present?.addedCost ?? null) : given.addedCost;
    const cleaned = {
      batch: given.batch,
      addedCost: addedCost === null ? null : parseQuantity(addedCost)!.toFixed(),
      note: given.note,
      parts: given.parts.map((part) => ({
        ...part,
        product: known.get(numberKey(part.product))!.code,
        alternates: part.alternates.map((one) => known.get(numberKey(one))!.code),
        quantity: parseQuantity(part.quantity)!.toFixed(),
        scrapPercent: parseQuantity(part.scrapPercent)!.toFixed()
      })),
      coProducts: given.coProducts
    };
    if (present && sameBill(present, cleaned)) return { bill: present, created: false };
    if (!present && given.parts.length === 0 && given.coProducts.length === 0)
      return { bill: { product: product.code, version: 0, validFrom, ...cleaned }, created: false };
    const [row] = await tx<{ id: number; version: number }[]>`
      INSERT INTO bill (product_id, version, valid_from, batch, added_cost, note, made_by)
      SELECT ${product.id}, coalesce(max(version), 0) + 1, ${validFrom}, ${given.batch},
        ${cleaned.addedCost}, ${given.note}, ${madeBy}
      FROM bill
      WHERE product_id = ${product.id}
      RETURNING id, version
    `;
    const column = <K extends keyof BillPart>(name: K) => cleaned.parts.map((part) => part[name]);
    if (cleaned.parts.length > 0)
      await tx`
        INSERT INTO bill_part (
          bill_id, line, component_id, quantity, per, scrap_percent, follow, positions, alternates,
            revision
        )
        SELECT ${row!.id}::bigint, line, component_id, quantity, per, scrap_percent, follow,
          ARRAY(SELECT jsonb_array_elements_text(positions::jsonb)),
          ARRAY(SELECT jsonb_array_elements_text(alternates::jsonb)::bigint), revision
        FROM unnest(
          ${cleaned.parts.map((_, index) => index + 1)}::int[],
            ${cleaned.parts.map((part) => idOf(part.product))}::bigint[],
            ${column('quantity')}::numeric[], ${column('per')}::text[],
            ${column('scrapPercent')}::numeric[], ${column('follow')}::text[],
            ${cleaned.parts.map((part) => JSON.stringify(part.positions))}::text[],
            ${cleaned.parts.map((part) => JSON.stringify(part.alternates.map(idOf)))}::text[],
            ${column('revision')}::text[]
        ) AS t (
          line, component_id, quantity, per, scrap_percent, follow, positions, alternates, revision
        )
      `;
    if (given.coProducts.length > 0)
      await tx`
        INSERT INTO bill_co_product ${tx(given.coProducts.map((co) => ({ bill_id: row!.id, product_id: idOf(co.product), quantity: co.quantity, share: co.share })))}
      `;
    return { bill: (await billById(tx, row!.id))!, created: true };
  });
}

interface Known {
  id: number;
  code: string;
  decimals: number;
  unit: string;
  marking: Marking;
}

async function knownProducts(tx: Tx, codes: readonly string[]): Promise<Map<string, Known>> {
  return new Map(
    (
      await tx<Known[]>`
        SELECT id, code, decimals, unit, marking
        FROM product
        WHERE upper(code) = ANY(${codes.map(numberKey)})
      `
    ).map((row) => [numberKey(row.code), row])
  );
}

function checkPart(
  part: BillPart,
  path: string,
  known: ReadonlyMap<string, Known>,
  errors: FormError[]
): void {
  const product = checkQuantity(part.product, part.quantity, path, known, errors);
  for (const other of part.alternates)
    if (!known.has(numberKey(other)))
      errors.push({
        code: 'product.unknown',
        path,
        number: shown(other),
        message: `There is no product ${shown(other)}, named as an alternate of ${part.product}. Set it up first.`
      });
  if (product?.marking === 'none' && part.follow !== 'drawn')
    errors.push({
      code: 'mark.missing',
      path,
      number: product.code,
      message: `${product.code} is kept by quantity only, so there is nothing to name: have it drawn by itself.`
    });
  if (product && hasSerials(product.marking) && part.follow === 'drawn')
    errors.push({
      code: 'mark.missing',
      path,
      number: product.code,
      message: `${product.code} has serials, and which one went in must be said: follow it per unit or per batch.`
    });
}

/** Each is a position of its own at the bench. */
const MOST_SERIALS = 10_000;

function checkQuantity(
  code: string,
  text: string,
  path: string,
  known: ReadonlyMap<string, Known>,
  errors: FormError[]
): Known | null {
  const product = known.get(numberKey(code));
  const amount = parseQuantity(text);
  if (!product)
    errors.push({
      code: 'product.unknown',
      path,
      number: shown(code),
      message: `There is no product ${shown(code)}. Set it up first.`
    });
  else if (amount && hasSerials(product.marking) && !amount.isInteger())
    errors.push({
      code: 'quantity.not-whole',
      path,
      number: product.code,
      message: `${product.code} has serials, so whole units go in; ${text} is no whole number.`
    });
  else if (amount && hasSerials(product.marking) && amount.gt(MOST_SERIALS))
    errors.push({
      code: 'quantity.mismatch',
      path,
      number: product.code,
      message: `${text} of ${product.code} each need a serial of their own, and at most ${MOST_SERIALS} can go in. Make an assembly of some of them first.`
    });
  return product ?? null;
}

const sameBill = (a: GivenBill, b: GivenBill): boolean => {
  const plain = ({ batch, addedCost, note, parts, coProducts }: GivenBill) =>
    JSON.stringify([
      batch === null ? null : Number(batch),
      addedCost == null ? null : Number(addedCost),
      note,
      parts.map(
        ({ product, quantity, per, scrapPercent, follow, positions, alternates, revision }) => [
          product,
          quantity,
          per,
          scrapPercent,
          follow,
          positions,
          alternates,
          revision
        ]
      ),
      coProducts.map((co) => [co.product, Number(co.quantity), Number(co.share)])
    ]);
  return plain(a) === plain(b);
};

/**
 * The path by which a product would come to be in itself from a day on, as codes; null where it
 * would not.
 */
async function loopThrough(
  tx: Tx,
  productId: number,
  components: readonly number[],
  day: string
): Promise<string | null> {
  const [row] = await tx<{ path: string }[]>`
    WITH RECURSIVE counting AS (
      SELECT b.id, b.product_id
      FROM bill b
      WHERE b.valid_from > ${day}
        OR b.id = (
          SELECT x.id
          FROM bill x
          WHERE x.product_id = b.product_id AND x.valid_from <= ${day}
          ORDER BY x.valid_from DESC, x.version DESC
          LIMIT 1
        )
    ),
      down (id, path) AS (
        SELECT p.id, (SELECT code FROM product WHERE id = ${productId}) || ' → ' || p.code
        FROM product p
        WHERE p.id = ANY(${components as number[]})
        UNION ALL
        SELECT c.id, d.path || ' → ' || p.code
        FROM down d
          JOIN counting b ON b.product_id = d.id
          JOIN bill_part l ON l.bill_id = b.id
          CROSS JOIN LATERAL unnest(l.component_id || l.alternates) AS c (id)
          JOIN product p ON p.id = c.id
        WHERE d.id <> ${productId}
      ) CYCLE id
    SET looped
    USING route
    SELECT path
    FROM down
    WHERE id = ${productId}
    LIMIT 1
  `;
  return row?.path ?? null;
}
