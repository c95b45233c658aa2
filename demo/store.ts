import { daysLater } from '../src/lib/core/calendar/day.ts';
import type { Actor } from '../src/lib/server/kernel/actor.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { book } from '../src/lib/server/ledger/book.ts';
import { build } from '../src/lib/server/making/kinds.ts';
import { open, receive } from '../src/lib/server/receiving/kinds.ts';
import { ship } from '../src/lib/server/shipping/kinds.ts';
import { approveCount } from '../src/lib/server/stock/counts/approve-count.ts';
import { readCountHead } from '../src/lib/server/stock/counts/count-head.ts';
import { readCountLines } from '../src/lib/server/stock/counts/count-lines.ts';
import { openCount } from '../src/lib/server/stock/counts/open-count.ts';
import { writeEntries } from '../src/lib/server/stock/counts/write-entries.ts';
import { arrive, dispatch } from '../src/lib/server/stock/transfers/book-transfer.ts';
import { orderTransfer } from '../src/lib/server/stock/transfers/order-transfer.ts';
import { PRICES } from './costs.ts';

/** Who books, and when: `at` says the instant of an hour so many days ago. */
interface Shift {
  sql: Sql;
  ines: Actor;
  tomas: Actor;
  priya: Actor;
  wilf: Actor;
  at: (daysAgo: number, time: string) => string;
  today: string;
}

/**
 * The store of the demo: spares that lay there before Earmark, a service van that is supplied from
 * them with two heads that did not arrive, a rack that was counted, and a tank of sealant that was
 * topped up between two batches.
 */
export async function seedStore(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  const today = now.toISOString().slice(0, 10);
  const [ines, tomas, priya, wilf] = ['ines', 'tomas', 'priya', 'wilf'].map((login) =>
    actors.get(login)!
  ) as [Actor, Actor, Actor, Actor];
  const at = (daysAgo: number, time: string): string => `${daysLater(today, -daysAgo)}T${time}:00Z`;
  const shift: Shift = { sql, ines, tomas, priya, wilf, at, today };
  await openStock(shift);
  await supplyVan(shift);
  await countRack(shift);
  await topUpTank(shift);
}

const HEADS = Array.from({ length: 10 }, (_, n) => ({ serial: `PD-0${601 + n}` }));

/** What lay there on the first day. */
async function openStock({ sql, wilf, at }: Shift): Promise<void> {
  await book(sql, open, wilf, 'demo store 1', {
    document: 'OPENING',
    at: at(330, '08:00'),
    lines: [
      { product: 'HEAD-A', place: 'QW-C1', quantity: '10', unitCost: '9.40', marks: HEADS },
      {
        product: 'WEB-40',
        place: 'QW-C1',
        quantity: '60',
        unitCost: '0.82',
        marks: [{ lot: 'WEB-OLD', quantity: '60' }]
      },
      {
        product: 'TUBE',
        place: 'QW-C1',
        quantity: '30',
        unitCost: '0.70',
        marks: [{ lot: 'T-OLD', quantity: '30' }]
      }
    ]
  });
}

/** Eight heads are to be in the van; two of those sent did not arrive, and more is ordered. */
async function supplyVan({ sql, ines, wilf, at, today }: Shift): Promise<void> {
  const sent = HEADS.slice(0, 8);
  await dispatch(sql, wilf, 'demo store 2', {
    document: 'TR-0001',
    at: at(9, '07:40'),
    from: 'QW',
    to: 'SV',
    lines: [
      { product: 'HEAD-A', place: 'QW-C1', marks: sent },
      { product: 'TUBE', place: 'QW-C1', marks: [{ lot: 'T-OLD', quantity: '12' }] }
    ]
  });
  await arrive(sql, ines, 'demo store 3', 'TR-0001', {
    at: at(8, '16:10'),
    place: 'SV-BOX',
    lines: [
      { product: 'HEAD-A', marks: sent.slice(0, 6) },
      { product: 'TUBE', marks: [{ lot: 'T-OLD', quantity: '12' }] }
    ],
    short: 'wait'
  });
  await orderTransfer(sql, wilf, 'TR-0002', {
    from: 'QW',
    to: 'SV',
    due: daysLater(today, 2),
    note: 'For the autumn round of the ferries.',
    lines: [
      { product: 'TUBE', quantity: '10' },
      { product: 'WEB-40', quantity: '25' }
    ]
  });
}

/** Webbing and tubes of rack C1: a metre and a half less of one lot, a tube more of another. */
async function countRack({ sql, ines, wilf }: Shift): Promise<void> {
  const document = 'CNT-0001';
  const products = ['WEB-40', 'TUBE'];
  await openCount(sql, wilf, { document, places: ['QW-C1'], products });
  const { rows } = await readCountLines(sql, await readCountHead(sql, document));
  const found: Record<string, number> = { 'WEB-OLD': -1.5, 'T-OLD': 1 };
  const lines = rows.map(({ product, place, lot, expected }) => ({
    product,
    place,
    ...(lot === null ? {} : { lot }),
    quantity: String(Number(expected) + (found[lot ?? ''] ?? 0))
  }));
  await writeEntries(sql, ines, document, { lines, done: ['QW-C1'] });
  await approveCount(sql, wilf, 'demo store 4', document, {
    reason: 'Offcut of webbing not booked; a tube found behind the rack.'
  });
}

/**
 * The first batch was made and sent before the tank was topped up: what is wrong with the second
 * delivery cannot be in it.
 */
async function topUpTank({ sql, ines, tomas, priya, at }: Shift): Promise<void> {
  const delivery = (key: string, days: number, document: string) =>
    book(sql, receive, ines, key, {
      document,
      supplier: 'TALLOW',
      at: at(days, '09:20'),
      lines: [
        {
          product: 'SEAL',
          place: 'QW-L1',
          quantity: '6',
          unitCost: PRICES.SEAL,
          marks: [{ lot: 'TANK-1', quantity: '6' }]
        }
      ]
    });
  const batch = (key: string, days: number, lot: string) =>
    book(sql, build, tomas, key, {
      document: `B-${lot}`,
      at: at(days, '13:30'),
      place: 'QW-C1',
      groups: [
        {
          outputs: [{ product: 'PATCH', lot, quantity: '100' }],
          inputs: [{ product: 'SEAL', lot: 'TANK-1', quantity: '4' }]
        }
      ]
    });
  const sale = (key: string, days: number, customer: string, lot: string, document: string) =>
    book(sql, ship, priya, key, {
      document,
      customer,
      at: at(days, '15:00'),
      lines: [{ product: 'PATCH', marks: [{ lot, quantity: '80' }] }]
    });
  await delivery('demo store 5', 60, 'DN-4410');
  await batch('demo store 6', 54, 'PATCH-1');
  await sale('demo store 7', 52, 'NORTHQUAY', 'PATCH-1', 'S-PATCH-1');
  await delivery('demo store 8', 40, 'DN-4466');
  await batch('demo store 9', 33, 'PATCH-2');
  await sale('demo store 10', 31, 'SKARROW', 'PATCH-2', 'S-PATCH-2');
}
