import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Sql, Tx } from '../../src/lib/server/kernel/db/client.ts';
import { LEDGER_TABLES, withoutChecks } from '../without-checks.ts';

/** From the project's folder, where npm runs its scripts. */
const STEPS = resolve('bench/firm');

/** How large a firm is. */
export interface FirmSize {
  /** Orders of each kind, spread over three years. */ orders: number;
  /** Genealogy links of all it made, about. */ links: number;
  /** Lots and serials that lie on hand, about. */ onHand: number;
  products: number;
}

export const LARGE: FirmSize = {
  orders: 80_000,
  links: 3_000_000,
  onHand: 1_000_000,
  products: 2000
};

/** A unit is made of a serial part of its own and three lots. */
const LINKS_PER_UNIT = 4;
/** Tables that wait for their indexes, keys and laws until all rows are there. */
const FILLED = [
  ...LEDGER_TABLES,
  'mark_cost',
  'mark_change',
  'booking_key',
  'trade_order',
  'order_booked',
  'waiting_order',
  'order_line',
  'packing',
  'unit_content',
  'unit_shipped',
  'returned',
  'quality_test',
  'test_signature'
];

/**
 * Grows the demo company into a large firm, set by set, in one transaction: what it books is what
 * the application would have written, and `npm run reconcile` finds nothing against it. The demo's
 * own rows stay as they are. Needs the owner's rights and a database the demo was seeded into.
 */
export async function growFirm(sql: Sql, size: FirmSize): Promise<void> {
  await sql.begin(async (tx) => {
    await tx`SET LOCAL work_mem = '256MB'`;
    await writeSizes(tx, size);
    await withoutChecks(tx, FILLED, async () => {
      for (const step of stepsOf()) await tx.unsafe(step);
    });
  });
  await sql`UPDATE cost_carried SET snapshot = pg_current_snapshot()::text`;
  await sql`VACUUM ANALYZE`;
}

const stepsOf = (): string[] =>
  readdirSync(STEPS)
    .filter((name) => name.endsWith('.sql'))
    .sort()
    .map((name) => readFileSync(resolve(STEPS, name), 'utf8'));

/** The one row every step reads: how many of what, where ids begin, who books. */
async function writeSizes(tx: Tx, { orders, links, onHand, products }: FirmSize): Promise<void> {
  const units = Math.max(2, 2 * Math.round(links / orders / LINKS_PER_UNIT / 2));
  const spare = Math.max(1, Math.round(onHand / orders - units / 2));
  await tx.unsafe(`
    CREATE TEMP TABLE firm AS
    SELECT ${orders} AS orders, ${units} AS units, ${spare} AS spare, ${products} AS products,
      ${Math.max(3, Math.floor(products * 0.3))} AS groups,
      ${Math.max(6, Math.round(orders * 0.015))} AS still_open,
      ${Math.max(2, Math.round(products / 2))} AS suppliers, ${products} AS customers,
      now() - interval '1100 days' AS since,
      (SELECT max(id) + 1 FROM event) AS first_event, (SELECT max(id) + 1 FROM mark) AS first_mark,
      (SELECT max(id) + 1 FROM transformation) AS first_tie,
      (SELECT id FROM person WHERE login = 'ines') AS receiver,
      (SELECT id FROM person WHERE login = 'tomas') AS builder,
      (SELECT id FROM person WHERE login = 'priya') AS shipper,
      (SELECT id FROM person WHERE login = 'marit') AS quality,
      (SELECT id FROM person WHERE login = 'elis') AS service,
      (SELECT id FROM person WHERE login = 'wilf') AS coordinator`);
}
