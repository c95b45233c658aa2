import { daysLater } from '../src/lib/core/calendar/day.ts';
import type { Role } from '../src/lib/core/people/rights.ts';
import type { Actor } from '../src/lib/server/kernel/actor.ts';
import { hashPassword } from '../src/lib/server/people/password.ts';
import { book } from '../src/lib/server/ledger/book.ts';
import { putPartner, putPlace } from '../src/lib/server/catalogue/partners-places.ts';
import { putBill, readBill } from '../src/lib/server/catalogue/bills.ts';
import { nameOutputs } from '../src/lib/server/making/planned-outputs.ts';
import { putRoute } from '../src/lib/server/catalogue/routes.ts';
import { putOrder } from '../src/lib/server/orders/write-order.ts';
import { putProduct } from '../src/lib/server/catalogue/products.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { putScheme } from '../src/lib/server/catalogue/numbering.ts';
import { putPlan } from '../src/lib/server/catalogue/plans.ts';
import { printLabels } from '../src/lib/server/stock/label-jobs.ts';
import { PARTNERS, PEOPLE, PLACES, PLANS, PRODUCTS, ROUTE, SCHEMES, SITES } from './company.ts';
import { ADDED, PRICES, seedCosts } from './costs.ts';
import { walkFloor } from './floor.ts';
import { seedQuality } from './quality.ts';
import { seedRecall } from './recall.ts';
import { seedService } from './service.ts';
import { seedShipping } from './shipping.ts';
import { seedStore } from './store.ts';
import { bookYear } from './year.ts';

/** The list price of one, of the unit it is ordered in. */
const priceOf = (product: string, unit?: string | null): string | null =>
  PRICES[unit ? `${product} ${unit}` : product] ?? null;

/**
 * Sets the demo company up and books its year through the same code as real bookings. Deterministic
 * but for the day it is told: the same numbers, quantities and links every time, dates relative to
 * `now`.
 */
export async function seedDemo(
  sql: Sql,
  { now, password }: { now: Date; password: string }
): Promise<void> {
  const hash = await hashPassword(password);
  for (const { login, name, roles } of PEOPLE)
    await sql`
      INSERT INTO person (login, name, roles, password_hash)
      VALUES (${login}, ${name}, ${roles as string[]}, ${hash})
    `;
  await sql`INSERT INTO site ${sql(SITES)}`;
  for (const { code, ...place } of PLACES) await putPlace(sql, code, place);
  for (const { code, ...partner } of PARTNERS)
    await putPartner(sql, code, { supplier: false, customer: false, ...partner });
  for (const { code, ...scheme } of SCHEMES) await putScheme(sql, code, scheme);
  const actors = new Map(
    (
      await sql<
        { id: number; login: string; name: string; roles: Role[] }[]
      >`SELECT id, login, name, roles FROM person`
    ).map((row): [string, Actor] => [
      row.login,
      { personId: row.id, login: row.login, name: row.name, roles: row.roles, via: 'session' }
    ])
  );
  for (const { code, name, plan } of PLANS)
    await putPlan(sql, actors.get('wilf')!, code, { name, ...plan });
  const day = now.toISOString().slice(0, 10);
  for (const { code, components, ...product } of PRODUCTS) {
    await putProduct(sql, code, { decimals: 0, made: false, ...product });
    const marking = new Map(PRODUCTS.map((one) => [one.code, one.marking]));
    if (components)
      await putBill(
        sql,
        code,
        {
          validFrom: daysLater(day, -400),
          batch: null,
          note: '',
          addedCost: ADDED[code] ?? null,
          coProducts: [],
          parts: components.map(([component, quantity, more]) => ({
            product: component,
            quantity,
            per: 'unit',
            scrapPercent: '0',
            follow: marking.get(component) === 'none' ? 'drawn' : 'unit',
            positions: [],
            alternates: [],
            revision: null,
            ...more
          }))
        },
        actors.get('wilf')!.personId
      );
  }
  await putRoute(sql, ROUTE.code, ROUTE);
  const today = day;
  let count = 0;
  const counted = await bookYear({
    day: (daysAgo) => daysLater(today, -daysAgo),
    order: async (kind, number, daysAgo, partner, lines) => {
      await putOrder(sql, actors.get('wilf')!, kind, number, {
        partner,
        placed: daysLater(today, -daysAgo.placed),
        due: daysLater(today, -daysAgo.due),
        note: '',
        lines: lines.map(([product, quantity, more]) => ({
          product,
          quantity: String(quantity),
          ...(kind === 'purchase' ? { unitPrice: priceOf(product, more?.unit) } : {}),
          ...more
        }))
      });
    },
    name: async (order, numbers) => {
      await nameOutputs(sql, actors.get('wilf')!, order, { numbers });
    },
    book: async (kind, login, daysAgo, time, request) => {
      const at = `${daysLater(today, -daysAgo)}T${time}:00Z`;
      await book(sql, kind, actors.get(login)!, `demo ${++count}`, {
        ...request,
        at: Date.parse(at) > now.getTime() ? now.toISOString() : at
      } as never);
    }
  });
  for (const [code, last] of Object.entries(counted))
    await sql`
      INSERT INTO numbering_counter (scheme_id, period, last)
      SELECT id, '', ${last}
      FROM numbering_scheme
      WHERE code = ${code}
    `;
  await walkFloor(sql, actors.get('tomas')!.personId, now);
  // The jackets' bill was changed yesterday: the order that is open keeps the version it was
  // entered with.
  const jacket = (await readBill(sql, 'TN150', { day }))!;
  await putBill(
    sql,
    'TN150',
    {
      ...jacket,
      validFrom: daysLater(day, -1),
      note: 'Webbing named for the batch.',
      parts: jacket.parts.map((part) =>
        part.product === 'WEB-40' ? { ...part, follow: 'batch' as const } : part
      )
    },
    actors.get('wilf')!.personId
  );
  await seedQuality(sql, actors, now);
  await seedShipping(sql, actors, now);
  await seedRecall(sql, actors, now);
  await seedStore(sql, actors, now);
  await seedService(sql, actors, now);
  await seedCosts(sql, actors, now);
  const latest = await sql<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE p.code = 'TN150'
    ORDER BY m.id DESC
    LIMIT 6
  `;
  await printLabels(sql, actors.get('tomas')!, {
    marks: latest.map((row) => row.id),
    symbol: 'datamatrix',
    size: '70x40',
    copies: 1,
    target: 'printer'
  });
}
