import type { Right } from '../core/people/rights.ts';
import type { TableColumn } from '../core/tables/headings.ts';
import { importBills, BILL_COLUMNS } from './catalogue/import-bills.ts';
import { partnerTable } from './catalogue/import-partners.ts';
import { placeTable } from './catalogue/import-places.ts';
import { planTable } from './catalogue/import-plans.ts';
import { productTable } from './catalogue/import-products.ts';
import { schemeTable } from './catalogue/import-schemes.ts';
import { specTable } from './catalogue/import-specs.ts';
import type { Actor } from './kernel/actor.ts';
import type { Db, Sql } from './kernel/db/client.ts';
import { importTable, type ImportedTable } from './kernel/imports/import-table.ts';
import type { ImportMode, ImportReport } from './kernel/imports/report.ts';
import { importOrders, ORDER_COLUMNS } from './orders/import-orders.ts';
import type { OrderKind } from './orders/schemas.ts';
import { peopleTable } from './people/import-people.ts';
import { importOpenings, openingColumns } from './receiving/import-openings.ts';

/** A file that is brought in, and by whom. */
export interface Brought {
  sql: Sql;
  actor: Actor;
  file: Uint8Array;
  mode: ImportMode;
  /** Number that opening stock is booked under. */
  document: string;
}

/** One kind of table that can be brought in from a file. */
export interface Import {
  /** What one record is called, and several. */
  what: readonly [string, string];
  /** One of these rights is needed. */
  rights: readonly Right[];
  columns: (db: Db, actor: Actor) => Promise<readonly TableColumn[]>;
  run: (brought: Brought) => Promise<ImportReport>;
}

const ofTable = (
  what: Import['what'],
  right: Right,
  table: (actor: Actor) => ImportedTable
): Import => ({
  what,
  rights: [right],
  columns: async (_, actor) => table(actor).columns,
  run: ({ sql, actor, file, mode }) => importTable(sql, file, mode, table(actor))
});

const ofOrders = (kind: OrderKind): Import => ({
  what: ['order', 'orders'],
  rights: ['edit.catalogue', 'edit.orders'],
  columns: async () => ORDER_COLUMNS(kind),
  run: ({ sql, actor, file, mode }) => importOrders(sql, actor, kind, file, mode)
});

/**
 * Every table that can be brought in, in the order an empty Earmark is filled. Routes, templates and
 * screens are made from it.
 */
export const IMPORTS = {
  partners: ofTable(['partner', 'partners'], 'edit.catalogue', () => partnerTable),
  places: ofTable(['place', 'places'], 'edit.catalogue', () => placeTable),
  people: ofTable(['person', 'people'], 'edit.people', peopleTable),
  'numbering-schemes': ofTable(
    ['numbering scheme', 'numbering schemes'],
    'edit.catalogue',
    () => schemeTable
  ),
  'marking-plans': ofTable(['marking plan', 'marking plans'], 'edit.catalogue', planTable),
  products: ofTable(['product', 'products'], 'edit.catalogue', () => productTable),
  specs: ofTable(['spec', 'specs'], 'edit.spec', specTable),
  bills: {
    what: ['bill', 'bills'],
    rights: ['edit.catalogue'],
    columns: async () => BILL_COLUMNS,
    run: ({ sql, actor, file, mode }) => importBills(sql, actor, file, mode)
  },
  'purchase-orders': ofOrders('purchase'),
  'work-orders': ofOrders('work'),
  'sales-orders': ofOrders('sales'),
  openings: {
    what: ['row', 'rows'],
    rights: ['book.opening'],
    columns: openingColumns,
    run: ({ sql, actor, file, mode, document }) => importOpenings(sql, actor, file, mode, document)
  }
} as const satisfies Record<string, Import>;

export type ImportKind = keyof typeof IMPORTS;

/** The import of a name; null where there is none. */
export const importOf = (name: string): Import | null =>
  Object.hasOwn(IMPORTS, name) ? IMPORTS[name as ImportKind] : null;
