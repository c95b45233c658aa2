import { isDeepStrictEqual } from 'node:util';
import type { TableColumn } from '../../core/tables/headings.ts';
import type { ProductRecord } from '../../core/catalogue/product-record.ts';
import { Product } from './schemas.ts';
import { PRODUCT_DECIMALS, putProduct, readProduct, readProducts } from './products.ts';
import type { Db } from '../kernel/db/client.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import type { ImportedTable } from '../kernel/imports/import-table.ts';
import { badCells } from '../kernel/imports/report.ts';

/**
 * The columns of a table of products, the same out and in. A cell left empty takes the value away;
 * a column left out leaves it.
 */
export const PRODUCT_COLUMNS: readonly TableColumn[] = [
  { key: 'code', says: 'code', required: true, also: ['product', 'product code'] },
  { key: 'name', says: 'name', required: true },
  { key: 'unit', says: 'unit', required: true },
  { key: 'decimals', says: 'decimals' },
  { key: 'made', says: 'made', also: ['made here'] },
  { key: 'marking', says: 'marking', also: ['marked by'] },
  { key: 'plan', says: 'plan', also: ['marking plan'] },
  { key: 'gtin', says: 'GTIN' },
  { key: 'shelfLifeDays', says: 'shelf life days', also: ['shelf life'] },
  { key: 'warrantyMonths', says: 'warranty months', also: ['warranty'] },
  { key: 'netWeightKg', says: 'net weight kg', also: ['net weight', 'weight'] },
  { key: 'grossWeightKg', says: 'gross weight kg', also: ['gross weight'] },
  { key: 'lengthCm', says: 'length cm', also: ['length'] },
  { key: 'widthCm', says: 'width cm', also: ['width'] },
  { key: 'heightCm', says: 'height cm', also: ['height'] },
  { key: 'overReceiptPercent', says: 'over-receipt per cent', also: ['tolerance'] },
  { key: 'lotScheme', says: 'lot scheme' },
  { key: 'serialScheme', says: 'serial scheme' },
  { key: 'units', says: 'other units', also: ['units'] }
];
const WHOLE = ['decimals', 'shelfLifeDays', 'warrantyMonths'] as const;
const MARKINGS: Record<string, string> = {
  '': '',
  NONE: 'none',
  'BY QUANTITY': 'none',
  LOT: 'lot',
  SERIAL: 'serial',
  'SERIAL-IN-LOT': 'serial-in-lot',
  'SERIAL WITHIN LOT': 'serial-in-lot'
};

/** `pack 100 09506000134352; box 1200` */
const sayUnits = (units: ProductRecord['units']): string =>
  units.map((unit) => [unit.name, unit.holds, unit.gtin].filter(Boolean).join(' ')).join('; ');

export async function exportProducts(db: Db, format: 'csv' | 'xlsx'): Promise<Written> {
  const products = await readProducts(db, null);
  return writeTable(
    'products',
    format,
    PRODUCT_COLUMNS,
    products.map((product) => ({
      ...Object.fromEntries(
        PRODUCT_COLUMNS.map(({ key }) => [
          key,
          String((product as unknown as Record<string, unknown>)[key] ?? '')
        ])
      ),
      made: product.made ? 'yes' : 'no',
      units: sayUnits(product.units)
    }))
  );
}

/** Products, a row each. */
export const productTable: ImportedTable = {
  columns: PRODUCT_COLUMNS,
  key: 'code',
  rows: 'one',
  keep: async (tx, code, [row]) => {
    const old = await readProduct(tx, code);
    const wanted = Product.safeParse(bodyOf(row!.cells, old));
    if (!wanted.success) throw badCells(wanted.error.issues);
    const { product, created } = await putProduct(tx, code, wanted.data);
    if (created) return 'new';
    return isDeepStrictEqual(product, old) ? 'same' : 'changed';
  }
};

/**
 * The product a row asks for: its own cells, and for columns the file does not have what the
 * product says already.
 */
function bodyOf(cells: Record<string, string>, old: ProductRecord | null): Record<string, unknown> {
  const { components: _, ...present } = old ?? ({ components: [] } as unknown as ProductRecord);
  const body: Record<string, unknown> = { ...present };
  delete body.code;
  for (const key of [
    'name',
    'unit',
    'gtin',
    'plan',
    'lotScheme',
    'serialScheme',
    ...PRODUCT_DECIMALS
  ] as const)
    if (cells[key] !== undefined) body[key] = cells[key] === '' ? null : cells[key];
  for (const key of WHOLE)
    if (cells[key] !== undefined)
      body[key] = cells[key] === '' ? (key === 'decimals' ? 0 : null) : Number(cells[key]);
  if (cells.made !== undefined) body.made = /^(yes|y|true|1|made)$/i.test(cells.made);
  if (cells.marking !== undefined)
    body.marking = MARKINGS[cells.marking.toUpperCase()] ?? cells.marking;
  if (body.marking === '' || body.marking === undefined) delete body.marking;
  // A plan named anew says the marking; the old one is not held against it.
  if (body.plan && cells.marking === undefined) delete body.marking;
  if (cells.units !== undefined)
    body.units = cells.units
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean)
      .map((one) => {
        const [name, holds = '', gtin] = one.split(/\s+/);
        return { name, holds, gtin: gtin ?? null };
      });
  return body;
}
