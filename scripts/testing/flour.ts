import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { onDatabase } from '../on-database.ts';

/** The least a ledger is booked in: a product in lots and a place, and what tests of commands do with them. */
export const FLOUR = { name: 'Flour', unit: 'kg', decimals: 2, made: false, marking: 'lot' };
export const DOCK = { name: 'Dock', site: 'MAIN' };

/** Opening stock of so much of a lot. */
export const openingOf = (document: string, lot: string, quantity: string) => ({
  document,
  lines: [{ product: 'FLOUR', place: 'DOCK', quantity, marks: [{ lot, quantity }] }]
});

/** Asks the database of a data folder as its owner, beside the Earmark that serves from it. */
export function asOwnerOf<T>(data: string, work: (sql: Sql) => Promise<T>): Promise<T> {
  const text = readFileSync(join(data, 'running.json'), 'utf8');
  return onDatabase((JSON.parse(text) as { ownerUrl: string }).ownerUrl, work);
}
