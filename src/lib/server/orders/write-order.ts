import type { z } from 'zod';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { parseQuantity } from '../../core/quantity/quantity.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Order, OrderKind } from './schemas.ts';
import { requireOrderRight } from './order-right.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { readOrder, type OrderRecord } from './read-orders.ts';
import { keepAnnounced } from './announced.ts';
import { today } from '../kernel/clock.ts';
import { readBill } from '../catalogue/bills.ts';
import { followProducts } from './follow-products.ts';
import { orderPrices } from './order-prices.ts';
import { cleanCode } from '../kernel/code.ts';

/**
 * Enters an order, or changes one that nothing has been booked against.
 * @throws Problem 403, 422 with everything that is wrong, 409 where bookings stand against it
 */
export async function putOrder(
  sql: Sql | Tx,
  actor: Actor,
  kind: OrderKind,
  pathNumber: string,
  given: Given
): Promise<{ order: OrderRecord; created: boolean }> {
  requireOrderRight(actor, kind);
  const number = cleanCode(pathNumber, 'order');
  return await within(sql, async (tx) => {
    const errors: FormError[] = [];
    const [partner] = given.partner
      ? await tx<{ id: number; supplier: boolean; customer: boolean }[]>`
        SELECT id, supplier, customer FROM partner WHERE upper(code) = ${numberKey(given.partner)}
      `
      : [];
    if (kind === 'work' && given.partner)
      errors.push({
        code: 'partner.unknown',
        path: 'partner',
        number: given.partner,
        message: 'A work order has no partner. Leave it out.'
      });
    if (kind !== 'work') {
      const as = kind === 'purchase' ? 'supplier' : 'customer';
      if (!partner)
        errors.push({
          code: 'partner.unknown',
          path: 'partner',
          number: shown(given.partner ?? ''),
          message: given.partner
            ? `There is no partner ${shown(given.partner)}. Set the ${as} up first.`
            : `Name the ${as}.`
        });
      else if (!partner[as])
        errors.push({
          code: 'partner.unknown',
          path: 'partner',
          number: given.partner!,
          message: `${given.partner} is not set up as a ${as}.`
        });
    }
    const [place] = given.place
      ? await tx<
          { id: number }[]
        >`SELECT id FROM place WHERE upper(code) = ${numberKey(given.place)}`
      : [];
    if (given.place && !place)
      errors.push({
        code: 'place.unknown',
        path: 'place',
        number: shown(given.place),
        message: `There is no place ${shown(given.place)}.`
      });
    const lines = await readLines(tx, kind, given.lines, errors);
    const columns = {
      kind,
      number,
      partner_id: partner?.id ?? null,
      place_id: place?.id ?? null,
      bill_id: kind === 'work' ? await billFor(tx, number, given, errors) : null,
      placed_on: given.placed ?? today(),
      due_on: given.due,
      note: given.note
    };
    if (errors.length > 0)
      throw new Problem(422, 'The order cannot be kept like this', errors, 'Nothing was changed.');
    const [before] = await tx<{ id: number; booked: boolean }[]>`
      SELECT id, EXISTS (SELECT FROM event e WHERE e.order_id = o.id) AS booked
      FROM trade_order o
      WHERE kind = ${kind} AND upper(number) = ${numberKey(number)}
      FOR UPDATE OF o
    `;
    if (before?.booked)
      throw new Problem(409, 'Something is already booked against this order', [
        {
          code: 'order.closed',
          path: 'number',
          number,
          message: `Order ${number} can no longer be changed. Close it and enter another for the rest.`
        }
      ]);
    const [row] = before
      ? await tx<
          { id: number }[]
        >`UPDATE trade_order SET ${tx(columns)} WHERE id = ${before.id} RETURNING id`
      : await tx<
          { id: number }[]
        >`INSERT INTO trade_order ${tx(columns)} ON CONFLICT DO NOTHING RETURNING id`;
    if (!row)
      throw new Problem(409, 'Somebody entered this order at the same moment', [
        {
          code: 'mark.duplicate',
          path: 'number',
          number,
          message: 'Look at it and send your change again.'
        }
      ]);
    const products = lines.map((line) => line.productId);
    const prices = await orderPrices(tx, row.id, given, lines);
    if (before) await followProducts(tx, row.id, products);
    await tx`DELETE FROM order_line WHERE order_id = ${row.id}`;
    await tx`
      INSERT INTO order_line (
        order_id, line, product_id, quantity, unit, unit_quantity, over_percent, unit_price
      )
      SELECT ${row.id}::bigint, *
      FROM unnest(
        ${lines.map((_, index) => index + 1)}::int[],
          ${lines.map((line) => line.productId)}::bigint[],
          ${lines.map((line) => line.quantity)}::numeric[],
          ${lines.map((line) => line.unit)}::text[],
          ${lines.map((line) => line.unitQuantity)}::numeric[],
          ${lines.map((line) => line.overPercent)}::numeric[], ${prices}::numeric[]
      )
    `;
    // Numbers announced before stay where the order is entered again without saying anything of
    // them.
    if (given.lines.some((line) => line.announced))
      await keepAnnounced(
        tx,
        row.id,
        given.lines.map((line, index) => ({ line: index + 1, marks: line.announced ?? [] }))
      );
    return { order: (await readOrder(tx, kind, number))!, created: !before };
  });
}

/** The bill a work order keeps: the version named, or the one in force when it is placed. */
async function billFor(
  tx: Tx,
  number: string,
  given: Given,
  errors: FormError[]
): Promise<number | null> {
  const product = given.lines[0]!.product;
  const bill = await readBill(
    tx,
    product,
    given.billVersion == null ? { day: given.placed ?? today() } : { version: given.billVersion }
  );
  if (!bill && given.billVersion != null)
    errors.push({
      code: 'mark.unknown',
      path: 'billVersion',
      number,
      message: `${product} has no bill version ${given.billVersion}. Leave it out for the one in force.`
    });
  return bill?.id ?? null;
}

type Given = z.infer<typeof Order>;
interface KeptLine {
  productId: number;
  quantity: string;
  unit: string | null;
  unitQuantity: string | null;
  overPercent: string | null;
}

/** The lines in the products' own units; what is wrong is added to the errors. */
async function readLines(
  tx: Tx,
  kind: OrderKind,
  given: Given['lines'],
  errors: FormError[]
): Promise<KeptLine[]> {
  const products = new Map(
    (
      await tx<
        {
          id: number;
          code: string;
          decimals: number;
          unit: string;
          made: boolean;
          units: { name: string; holds: string }[] | null;
        }[]
      >`
        SELECT id, code, decimals, unit, made,
          (
            SELECT json_agg(json_build_object('name', u.name, 'holds', u.holds::text))
            FROM product_unit u
            WHERE u.product_id = p.id
          ) AS units
        FROM product p
        WHERE upper(code) = ANY(${given.map((line) => numberKey(line.product))})
      `
    ).map((row) => [numberKey(row.code), row])
  );
  return given.flatMap((line, index) => {
    const path = `lines[${index}]`;
    const product = products.get(numberKey(line.product));
    if (!product) {
      errors.push({
        code: 'product.unknown',
        path: `${path}.product`,
        number: shown(line.product),
        message: `There is no product ${shown(line.product)}. Check the code, or set it up first.`
      });
      return [];
    }
    const inOther =
      line.unit && numberKey(line.unit) !== numberKey(product.unit) ? line.unit : null;
    const unit = inOther
      ? product.units?.find((one) => numberKey(one.name) === numberKey(inOther))
      : undefined;
    const entered = parseQuantity(line.quantity);
    const amount = entered && unit ? entered.times(unit.holds) : entered;
    const over = line.overPercent ? parseQuantity(line.overPercent) : null;
    const before = errors.length;
    if (inOther && !unit)
      errors.push({
        code: 'quantity.mismatch',
        path: `${path}.unit`,
        number: product.code,
        message: `${product.code} is not counted in “${shown(inOther)}”. Give it in ${[product.unit, ...(product.units ?? []).map((one) => one.name)].join(' or ')}.`
      });
    else if (amount === null || amount.lte(0))
      errors.push({
        code: 'quantity.mismatch',
        path: `${path}.quantity`,
        number: product.code,
        message: `“${shown(line.quantity)}” is no quantity above zero.`
      });
    else if (amount.decimalPlaces() > product.decimals)
      errors.push({
        code: 'quantity.not-whole',
        path: `${path}.quantity`,
        number: product.code,
        message: `${product.code} is counted in ${product.unit} with ${product.decimals} decimals; ${line.quantity} is finer.`
      });
    const price = line.unitPrice == null ? null : parseQuantity(line.unitPrice);
    if (line.unitPrice != null && (kind !== 'purchase' || price === null || price.lt(0)))
      errors.push({
        code: 'quantity.mismatch',
        path: `${path}.unitPrice`,
        number: product.code,
        message:
          kind === 'purchase'
            ? `“${shown(line.unitPrice)}” is no price. Give a number from 0 up, or leave it out where it is not known.`
            : 'Only a purchase order says prices here. Leave it out.'
      });
    if (line.overPercent && (over === null || over.lt(0) || over.gt(100)))
      errors.push({
        code: 'quantity.mismatch',
        path: `${path}.overPercent`,
        number: product.code,
        message: `“${shown(line.overPercent)}” is no tolerance from 0 to 100 per cent.`
      });
    if (kind === 'work' && !product.made)
      errors.push({
        code: 'mark.wrong-product',
        path: `${path}.product`,
        number: product.code,
        message: `${product.code} is bought, not made. Say in Setup that it is made, or name another.`
      });
    return errors.length > before
      ? []
      : [
          {
            productId: product.id,
            quantity: amount!.toFixed(),
            unit: unit?.name ?? null,
            unitQuantity: unit ? entered!.toFixed() : null,
            overPercent: over?.toFixed() ?? null
          }
        ];
  });
}

/**
 * Says that the serials of a sales order are named later, or takes that back. @throws Problem 403,
 * 404
 */
export async function setSerialsLater(
  sql: Sql,
  actor: Actor,
  number: string,
  later: boolean
): Promise<void> {
  requireOrderRight(actor, 'sales');
  const [row] = await sql`
    UPDATE trade_order
    SET serials_later_at = ${later ? new Date() : null}
    WHERE kind = 'sales' AND upper(number) = ${numberKey(number)}
    RETURNING id
  `;
  if (!row)
    throw new Problem(404, 'There is no such order', [
      {
        code: 'mark.unknown',
        path: 'number',
        number: shown(number),
        message: `There is no sales order ${shown(number)}.`
      }
    ]);
}

/** Closes an order before it is complete, or opens it again. @throws Problem 403, 404 */
export async function setOrderClosed(
  sql: Sql,
  actor: Actor,
  kind: OrderKind,
  number: string,
  closed: boolean
): Promise<OrderRecord> {
  requireOrderRight(actor, kind);
  const [row] = await sql`
    UPDATE trade_order
    SET closed_at = ${closed ? new Date() : null}
    WHERE kind = ${kind} AND upper(number) = ${numberKey(number)}
    RETURNING id
  `;
  if (!row)
    throw new Problem(404, 'There is no such order', [
      {
        code: 'mark.unknown',
        path: 'number',
        number: shown(number),
        message: `There is no ${kind} order ${shown(number)}.`
      }
    ]);
  return (await readOrder(sql, kind, number))!;
}
