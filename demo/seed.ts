import { daysLater } from '../src/lib/core/calendar/day.ts';
import type { Role } from '../src/lib/core/access/rights.ts';
import type { Actor } from '../src/lib/server/access/actor.ts';
import { hashPassword } from '../src/lib/server/access/password.ts';
import { book, type BookingKind, type Circumstances } from '../src/lib/server/booking/book.ts';
import { putPartner, putPlace } from '../src/lib/server/catalogue/partners-places.ts';
import { putOrder, type OrderKind } from '../src/lib/server/catalogue/orders.ts';
import { putProduct } from '../src/lib/server/catalogue/products.ts';
import type { Sql } from '../src/lib/server/db/client.ts';
import { putScheme } from '../src/lib/server/catalogue/numbering.ts';
import { putPlan } from '../src/lib/server/catalogue/plans.ts';
import { printLabels } from '../src/lib/server/documents/label-jobs.ts';
import { PARTNERS, PEOPLE, PLACES, PLANS, PRODUCTS, SCHEMES, SITES } from './company.ts';
import { bookYear } from './year.ts';

/** Product and quantity; in another unit, and with announced numbers, where so. */
export type OrderedLine = [product: string, quantity: number, more?: { unit?: string; announced?: { lot?: string; serial?: string; expires?: string }[] }];

/** What the year needs of the world: bookings and orders at a day, by the person whose work it is. */
export interface Desk {
  /** The calendar day so many days before the seeding. */
  day: (daysAgo: number) => string;
  order: (kind: OrderKind, number: string, daysAgo: { placed: number; due: number }, partner: string | null, lines: OrderedLine[]) => Promise<void>;
  book: <R extends Circumstances>(kind: BookingKind<R>, login: string, daysAgo: number, time: string, request: Omit<R, 'at'>) => Promise<void>;
}

/**
 * Sets the demo company up and books its year through the same code as real bookings. Deterministic but for the day it is
 * told: the same numbers, quantities and links every time, dates relative to `now`.
 */
export async function seedDemo(sql: Sql, { now, password }: { now: Date; password: string }): Promise<void> {
  const hash = await hashPassword(password);
  for (const { login, name, roles } of PEOPLE) await sql`INSERT INTO person (login, name, roles, password_hash) VALUES (${login}, ${name}, ${roles as string[]}, ${hash})`;
  await sql`INSERT INTO site ${sql(SITES)}`;
  for (const { code, ...place } of PLACES) await putPlace(sql, code, place);
  for (const { code, ...partner } of PARTNERS) await putPartner(sql, code, { supplier: false, customer: false, ...partner });
  for (const { code, ...scheme } of SCHEMES) await putScheme(sql, code, scheme);
  const actors = new Map((await sql<{ id: number; login: string; name: string; roles: Role[] }[]>`SELECT id, login, name, roles FROM person`)
    .map((row): [string, Actor] => [row.login, { personId: row.id, login: row.login, name: row.name, roles: row.roles, via: 'session' }]));
  for (const { code, name, plan } of PLANS) await putPlan(sql, actors.get('wilf')!, code, { name, ...plan });
  for (const { code, components, ...product } of PRODUCTS) {
    await putProduct(sql, code, { decimals: 0, made: false, ...product, components: components?.map(([component, quantity]) => ({ product: component, quantity })) });
  }
  const today = now.toISOString().slice(0, 10);
  let count = 0;
  const counted = await bookYear({
    day: (daysAgo) => daysLater(today, -daysAgo),
    order: async (kind, number, daysAgo, partner, lines) => {
      await putOrder(sql, actors.get('wilf')!, kind, number, {
        partner, placed: daysLater(today, -daysAgo.placed), due: daysLater(today, -daysAgo.due), note: '',
        lines: lines.map(([product, quantity, more]) => ({ product, quantity: String(quantity), ...more }))
      });
    },
    book: async (kind, login, daysAgo, time, request) => {
      const at = `${daysLater(today, -daysAgo)}T${time}:00Z`;
      await book(sql, kind, actors.get(login)!, `demo ${++count}`, { ...request, at: Date.parse(at) > now.getTime() ? now.toISOString() : at } as never);
    }
  });
  for (const [code, last] of Object.entries(counted)) await sql`INSERT INTO numbering_counter (scheme_id, period, last) SELECT id, '', ${last} FROM numbering_scheme WHERE code = ${code}`;
  const latest = await sql<{ id: number }[]>`SELECT m.id FROM mark m JOIN product p ON p.id = m.product_id WHERE p.code = 'TN150' ORDER BY m.id DESC LIMIT 6`;
  await printLabels(sql, actors.get('tomas')!, { marks: latest.map((row) => row.id), symbol: 'datamatrix', size: '70x40', copies: 1, target: 'printer' });
}
