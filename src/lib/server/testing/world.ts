import { randomBytes } from 'node:crypto';
import type { Role } from '../../core/people/rights.ts';
import type { Fault } from '../../core/faults/fault.ts';
import type { Build, Receipt, Shipment } from '../../core/ledger/request.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import type { Actor } from '../kernel/actor.ts';
import { book, type BookedAnswer, type BookingKind, type Circumstances } from '../ledger/book.ts';
import { build } from '../making/kinds.ts';
import { correct } from '../stock/kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { receive } from '../receiving/kinds.ts';
import { ship } from '../shipping/kinds.ts';
import { putPartner, putPlace } from '../catalogue/partners-places.ts';
import { putProduct } from '../catalogue/products.ts';
import { connect, type Sql } from '../kernel/db/client.ts';
import { copyTemplate } from './copy-template.ts';
import { withDatabase } from './template.ts';

/** A fresh database with a small company in it, for one test file. */
export interface World {
  /** As the application works: under the role earmark_app. */
  sql: Sql;
  /** Where the application would open connections of its own. */
  appUrl: string;
  /** As the owner of the tables. */
  owner: Sql;
  actor: Actor;
  book: <R extends Circumstances>(
    kind: BookingKind<R>,
    request: R,
    key?: string
  ) => Promise<BookedAnswer>;
  /** The faults a booking is refused with; fails where it is not refused. */
  refused: <R extends Circumstances>(kind: BookingKind<R>, request: R) => Promise<readonly Fault[]>;
  receive: (
    product: string,
    marks: Receipt['lines'][number]['marks'],
    quantity?: string,
    place?: string
  ) => Promise<BookedAnswer>;
  build: (groups: Build['groups']) => Promise<BookedAnswer>;
  ship: (lines: Shipment['lines']) => Promise<BookedAnswer>;
  end: () => Promise<void>;
}

let count = 0;
export const newKey = (): string => `test ${++count} ${randomBytes(4).toString('hex')}`;

/** Products of the small world: codes say how they are marked. */
const PRODUCTS: [string, Marking, number][] = [
  ['LOT', 'lot', 3],
  ['SER', 'serial', 0],
  ['SIL', 'serial-in-lot', 0],
  ['BULK', 'none', 0],
  ['MADE', 'serial', 0],
  ['MADELOT', 'lot', 3],
  ['KG', 'lot', 3]
];

export async function makeWorld({ max = 24 } = {}): Promise<World> {
  const url = process.env.EARMARK_TEST_URL!,
    appUrl = process.env.EARMARK_TEST_APP_URL!;
  const name = `test_${randomBytes(6).toString('hex')}`;
  const maintenance = connect(url, { max: 1 });
  await copyTemplate(maintenance, name);
  const owner = connect(withDatabase(url, name), { max: 2 });
  const ownAppUrl = withDatabase(appUrl, name);
  const sql = connect(ownAppUrl, { max, role: 'earmark_app' });
  const roles: Role[] = ['coordinator', 'administrator', 'quality'];
  const [person] = await sql<
    { id: number }[]
  >`INSERT INTO person (login, name, roles) VALUES ('test', 'Test Person', ${roles}) RETURNING id`;
  const actor: Actor = {
    personId: person!.id,
    login: 'test',
    name: 'Test Person',
    roles,
    via: 'session'
  };
  for (const place of ['DOCK', 'RACK', 'LINE'])
    await putPlace(sql, place, { name: place.toLowerCase(), site: 'S1' });
  await putPartner(sql, 'SUP', { name: 'Supplier', supplier: true, customer: false });
  await putPartner(sql, 'CUS', { name: 'Customer', supplier: false, customer: true });
  for (const [code, marking, decimals] of PRODUCTS)
    await putProduct(sql, code, {
      name: code.toLowerCase(),
      unit: code === 'KG' ? 'kg' : 'each',
      decimals,
      made: code.startsWith('MADE'),
      marking
    });

  const bookIt: World['book'] = async (kind, request, key = newKey()) =>
    JSON.parse((await book(sql, kind, actor, key, request)).answer) as BookedAnswer;
  return {
    sql,
    appUrl: ownAppUrl,
    owner,
    actor,
    book: bookIt,
    refused: async (kind, request) => {
      try {
        await bookIt(kind, request);
      } catch (error) {
        if (error instanceof Problem) return error.errors as readonly Fault[];
        throw error;
      }
      throw new Error('The booking was not refused.');
    },
    receive: (product, marks, quantity = String(marks?.length ?? 0), place = 'DOCK') =>
      bookIt(receive, {
        document: `R-${++count}`,
        supplier: 'SUP',
        lines: [{ product, place, quantity, marks }]
      }),
    build: (groups) => bookIt(build, { document: `B-${++count}`, place: 'LINE', groups }),
    ship: (lines) => bookIt(ship, { document: `S-${++count}`, customer: 'CUS', lines }),
    end: async () => {
      await sql.end();
      await owner.end();
      await maintenance.unsafe(`DROP DATABASE ${name} WITH (FORCE)`);
      await maintenance.end();
    }
  };
}

/**
 * Goods through all levels: received, made into a lot, that into units with serial parts and stock
 * by quantity; some shipped, some scrapped.
 */
export async function bookThroughLevels(world: World): Promise<void> {
  await world.receive('KG', [{ lot: 'RESIN', supplierNumber: 'X-1' }], '10');
  await world.receive('SIL', [
    { lot: 'CYL', serial: 'C1' },
    { lot: 'CYL', serial: 'C2' },
    { lot: 'CYL', serial: 'C3' }
  ]);
  await world.receive('BULK', [], '100');
  await world.build([
    {
      outputs: [{ product: 'MADELOT', lot: 'SHELL', quantity: '4' }],
      inputs: [{ product: 'KG', lot: 'RESIN', quantity: '6' }]
    }
  ]);
  await world.build(
    ['C1', 'C2'].map((serial, n) => ({
      outputs: [{ product: 'MADE', serial: `U${n + 1}`, quantity: '1' }],
      inputs: [
        { product: 'MADELOT', lot: 'SHELL', quantity: '1' },
        { product: 'SIL', serial, quantity: '1' },
        { product: 'BULK', quantity: '2' }
      ]
    }))
  );
  await world.ship([
    { product: 'MADE', place: 'LINE', marks: [{ serial: 'U1' }] },
    { product: 'KG', place: 'DOCK', marks: [{ lot: 'RESIN', quantity: '1.5' }] }
  ]);
  await world.book(correct, {
    document: 'SC',
    kind: 'scrap',
    reason: 'cracked',
    lines: [{ product: 'MADELOT', lot: 'SHELL', place: 'LINE', quantity: '1' }]
  });
}

/**
 * On hand by an independent sum over movements, as `product number place quantity`, without using
 * the stock table.
 */
export async function onHandByMovements(sql: Sql): Promise<string[]> {
  const rows = await sql<
    { product: string; number: string | null; place: string; quantity: string }[]
  >`
    SELECT p.code AS product, m.number, c.code AS place, v.quantity
    FROM movement v
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = v.place_id
  `;
  const sums = new Map<string, bigint>();
  for (const row of rows) {
    const key = `${row.product} ${row.number ?? '-'} ${row.place}`;
    // Micro-units as big integers: another arithmetic than the application's.
    const [whole, part = ''] = row.quantity.replace('-', '').split('.');
    const micro = BigInt(whole! + part.padEnd(6, '0')) * (row.quantity.startsWith('-') ? -1n : 1n);
    sums.set(key, (sums.get(key) ?? 0n) + micro);
  }
  return [...sums]
    .filter(([, micro]) => micro !== 0n)
    .map(([key, micro]) => `${key} ${micro}`)
    .sort();
}

/** The same lines from the stock table. */
export async function onHandByStock(sql: Sql): Promise<string[]> {
  const rows = await sql<{ line: string }[]>`
    SELECT p.code || ' ' || coalesce(m.number, '-') || ' ' || c.code || ' ' || (s.quantity * 1000000)::numeric(30, 0)::text AS line
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = s.place_id
    WHERE s.quantity <> 0
  `;
  return rows.map((row) => row.line).sort();
}
