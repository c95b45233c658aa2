import { daysLater } from '../../core/calendar/day.ts';
import { bracketed, digitalLink, elementString } from '../../core/gs1/write-symbol.ts';
import { hasSerials } from '../../core/catalogue/plan.ts';
import { continueNumbers } from '../../core/numbers/continue.ts';
import type { Db } from '../kernel/db/client.ts';
import { ownBase } from '../kernel/own-base.ts';
import { readOrder } from '../orders/read-orders.ts';

export interface Sample {
  says: string;
  text: string;
}

/**
 * Symbols that could lie on the goods of the order that is open, for the simulated scanner:
 * announced numbers, new ones after those that are known, the same as bracketed text and as a
 * Digital Link, one of a foreign product, and one cut short.
 * @param path of the screen, such as `/receive/PO-2141`
 */
export async function samplesFor(db: Db, path: string, today: string): Promise<Sample[]> {
  const [, screen, number] = /^\/(receive|ship)\/([^/]+)/.exec(path) ?? [];
  const order = number
    ? await readOrder(db, screen === 'receive' ? 'purchase' : 'sales', decodeURIComponent(number))
    : null;
  if (!order) return [];
  const samples: Sample[] = [];
  for (const line of order.lines) {
    const serial = hasSerials(line.marking);
    const [last] = await db<{ number: string }[]>`
      SELECT m.number
      FROM mark m
        JOIN product p ON p.id = m.product_id
      WHERE p.code = ${line.product} AND m.kind = ${serial ? 'serial' : 'lot'} ${
        screen === 'ship'
          ? db`
          AND EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
        `
          : db``
      }
      ORDER BY m.id DESC
      LIMIT 1
    `;
    const announced = line.announced.find((one) => !one.arrived);
    const next =
      screen === 'ship'
        ? last?.number
        : (announced?.serial ??
          announced?.lot ??
          (last ? continueNumbers(last.number, 1)[0] : 'A-1001'));
    if (!next || line.marking === 'none') continue;
    const elements = {
      ...(line.gtin ? { gtin: line.gtin } : {}),
      ...(serial
        ? {
            serial: next,
            ...(announced?.lot
              ? { lot: announced.lot }
              : line.marking === 'serial-in-lot'
                ? { lot: `L-${today.slice(2).replaceAll('-', '')}` }
                : {})
          }
        : { lot: next }),
      ...(line.plan.expires !== 'not kept' && line.shelfLifeDays
        ? { expires: announced?.expires ?? daysLater(today, line.shelfLifeDays) }
        : {})
    };
    samples.push({ says: `${line.product}, plain number`, text: next });
    if (!line.gtin) continue;
    samples.push(
      { says: `${line.product}, element string`, text: elementString(elements) },
      { says: `${line.product}, as printed beneath`, text: bracketed(elements) },
      { says: `${line.product}, Digital Link`, text: digitalLink(ownBase(), elements) },
      { says: `${line.product}, cut short`, text: elementString(elements).slice(0, 13) }
    );
  }
  const codes = order.lines.map((line) => line.product);
  const [foreign] = await db<{ code: string; gtin: string }[]>`
    SELECT code, gtin
    FROM product
    WHERE gtin IS NOT NULL AND NOT code = ANY(${codes})
    ORDER BY code
    LIMIT 1
  `;
  if (foreign)
    samples.push({
      says: `${foreign.code}, which is not on this order`,
      text: elementString({ gtin: foreign.gtin, serial: 'X-1' })
    });
  return samples;
}
