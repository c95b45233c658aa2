import { randomUUID } from 'node:crypto';
import type { z } from 'zod';
import type { Marking } from '../../core/catalogue/marking.ts';
import { hasSerials } from '../../core/catalogue/plan.ts';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { NamedOutputs } from './schemas.ts';
import { requireRight } from '../kernel/rights.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { lockOpenOrder, lockOrder, type LockedOrder } from '../orders/lock-order.ts';
import { readOutputs, type PlannedOutput } from '../orders/read-orders.ts';
import { allotNumbers } from '../catalogue/numbering.ts';

/**
 * Names outputs of a work order before they are made: typed, pasted, or made by the numbering
 * scheme. A number names one unit of one order.
 * @throws Problem 403, 404, 409 for a closed order, 422 with every number that cannot be used
 */
export async function nameOutputs(
  sql: Sql,
  actor: Actor,
  number: string,
  given: z.infer<typeof NamedOutputs>
): Promise<PlannedOutput[]> {
  requireRight(actor, 'book.build');
  return (await sql.begin(async (tx) => {
    const order = await lockOpenOrder(tx, 'work', number, 'its outputs are named');
    const lines = await tx<{ id: number; code: string; marking: Marking }[]>`
      SELECT p.id, p.code, p.marking
      FROM order_line l
        JOIN product p ON p.id = l.product_id
      WHERE l.order_id = ${order.id}
      ORDER BY l.line
    `;
    const product =
      given.product === undefined
        ? lines[0]!
        : lines.find((line) => numberKey(line.code) === numberKey(given.product!));
    if (!product)
      throw new Problem(422, 'The product is not on the order', [
        {
          code: 'mark.wrong-product',
          path: 'product',
          number: shown(given.product!),
          message: `Order ${order.number} does not make ${shown(given.product!)}. It makes ${lines.map((line) => line.code).join(', ')}.`
        }
      ]);
    if (product.marking === 'none')
      throw new Problem(422, 'The product has no numbers', [
        {
          code: 'number.malformed',
          path: 'product',
          number: product.code,
          message: `${product.code} is kept by quantity only and has no numbers to name.`
        }
      ]);
    const kind = hasSerials(product.marking) ? 'serial' : 'lot';
    const numbers = [...(given.numbers ?? [])];
    if (given.make)
      numbers.push(
        ...(
          await allotNumbers(
            tx,
            actor,
            `outputs ${randomUUID()}`,
            { product: product.code, kind, count: given.make },
            new Date()
          )
        ).numbers
      );
    const errors = await faultsOf(tx, product, kind, order, numbers);
    if (product.marking === 'serial-in-lot' && !given.lot?.trim())
      errors.push({
        code: 'mark.missing',
        path: 'lot',
        number: product.code,
        message: `${product.code} is marked by serial within lot: say which lot these will be in.`
      });
    if (numbers.length === 0)
      errors.push({
        code: 'mark.missing',
        path: 'numbers',
        number: product.code,
        message: 'Give the numbers, or say how many to make.'
      });
    if (errors.length > 0)
      throw new Problem(422, 'These numbers cannot be named', errors, 'Nothing was changed.');
    await tx`
      INSERT INTO planned_output (order_id, product_id, lot, number, named_by)
      SELECT ${order.id}, ${product.id}, ${given.lot?.trim() || null}, n, ${actor.personId}
      FROM unnest(${numbers.map((one) => one.trim())}::text[]) WITH ORDINALITY AS w (n, at)
      ORDER BY at
    `;
    return await readOutputs(tx, order.id);
  })) as PlannedOutput[];
}

async function faultsOf(
  tx: Tx,
  product: { id: number; code: string },
  kind: 'lot' | 'serial',
  order: LockedOrder,
  numbers: readonly string[]
): Promise<FormError[]> {
  const errors: FormError[] = [];
  const seen = new Map<string, number>();
  numbers.forEach((text, index) => {
    const path = `numbers[${index}]`,
      reading = readNumber(text);
    if (!reading.ok) {
      errors.push({
        code: 'number.malformed',
        path,
        number: shown(text),
        message: `${shown(text)} cannot be used: ${reading.why}.`
      });
      return;
    }
    const before = seen.get(numberKey(reading.number));
    if (before !== undefined)
      errors.push({
        code: 'mark.duplicate',
        path,
        number: reading.number,
        message: `${reading.number} stands on row ${before + 1} already. Remove one of the two.`
      });
    else seen.set(numberKey(reading.number), index);
  });
  const keys = [...seen.keys()];
  const taken = await tx<{ number: string; order: string | null }[]>`
    SELECT n.number, o.number AS order
    FROM planned_output n
      JOIN trade_order o ON o.id = n.order_id
    WHERE n.product_id = ${product.id} AND n.number_key = ANY(${keys})
    UNION ALL
    SELECT m.number, NULL
    FROM mark m
    WHERE m.product_id = ${product.id}
      AND m.kind = ${kind}
      AND m.number_key = ANY(${kind === 'lot' ? [] : keys})
  `;
  for (const { number, order: other } of taken) {
    const path = `numbers[${seen.get(numberKey(number))}]`;
    errors.push({
      code: 'mark.duplicate',
      path,
      number,
      message:
        other === null
          ? `Serial ${number} of ${product.code} exists already. Give another number.`
          : other === order.number
            ? `${number} is named on this order already.`
            : `${number} is named on order ${other}. Give another number.`
    });
  }
  return errors;
}

/**
 * Takes names back that were not made yet. @throws Problem 403, 404, 422 for a number that is made
 * or that stood at a station
 */
export async function unnameOutputs(
  sql: Sql,
  actor: Actor,
  number: string,
  numbers: readonly string[]
): Promise<PlannedOutput[]> {
  requireRight(actor, 'book.build');
  return (await sql.begin(async (tx) => {
    const order = await lockOrder(tx, 'work', number);
    const named = new Map(
      (await readOutputs(tx, order.id)).map((one) => [numberKey(one.number), one])
    );
    const onFloor = new Set(
      (
        await tx<{ unit_id: number }[]>`
          SELECT DISTINCT s.unit_id
          FROM station_step s
            JOIN planned_output n ON n.id = s.unit_id
          WHERE n.order_id = ${order.id}
        `
      ).map((row) => row.unit_id)
    );
    const errors = numbers.flatMap((text, index): FormError[] => {
      const one = named.get(numberKey(text));
      const why = !one
        ? 'is not named on this order'
        : one.mark !== null
          ? 'is made already'
          : onFloor.has(one.id)
            ? 'has been at a station already; scrap it or let it go on'
            : null;
      return why
        ? [
            {
              code: 'mark.unknown',
              path: `numbers[${index}]`,
              number: shown(text),
              message: `${shown(text)} ${why}.`
            }
          ]
        : [];
    });
    if (errors.length > 0)
      throw new Problem(422, 'These names cannot be taken back', errors, 'Nothing was changed.');
    await tx`
      DELETE FROM planned_output
      WHERE order_id = ${order.id} AND number_key = ANY(${numbers.map(numberKey)})
    `;
    return await readOutputs(tx, order.id);
  })) as PlannedOutput[];
}
