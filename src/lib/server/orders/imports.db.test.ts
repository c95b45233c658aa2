import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putProduct, readProduct } from '../catalogue/products.ts';
import { readOrder } from './read-orders.ts';
import { writeTable } from '../kernel/tables/write-table.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { importOrders } from './import-orders.ts';
import { exportProducts, PRODUCT_COLUMNS, productTable } from '../catalogue/import-products.ts';
import { importTable } from '../kernel/imports/import-table.ts';
import type { ImportMode } from '../kernel/imports/report.ts';

const importProducts = (sql: World['sql'], file: Uint8Array, mode: ImportMode) =>
  importTable(sql, file, mode, productTable);
let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const csv = (...lines: string[]) => new TextEncoder().encode(lines.join('\n'));
const verdicts = (report: { rows: { what: string; verdict: string }[] }) =>
  report.rows.map((row) => `${row.what} ${row.verdict}`);

describe('products out and in again', () => {
  it.each(['csv', 'xlsx'] as const)('as %s change nothing', async (format) => {
    await putProduct(world.sql, 'FULL', {
      name: 'full, “of” everything; =1+1',
      unit: 'each',
      decimals: 0,
      made: true,
      marking: 'serial',
      gtin: '09506000134352',
      netWeightKg: '0.1',
      grossWeightKg: '0.25',
      lengthCm: '10',
      widthCm: '20.5',
      heightCm: '3',
      overReceiptPercent: '2.5',
      shelfLifeDays: 30,
      units: [{ name: 'pack', holds: '10' }]
    });
    const { body } = await exportProducts(world.sql, format);
    const report = await importProducts(world.sql, body, 'write');
    expect(report.counts).toMatchObject({ new: 0, changed: 0, fault: 0 });
    expect(report.counts.same).toBeGreaterThan(5);
  });
  it('a check writes nothing, and says row by row what writing would do', async () => {
    const file = csv(
      'Code;Name;Unit;Marking;Shelf-life (days);Colour',
      'NEW-1;one;each;lot;30;red',
      'FULL;better name;each;serial;30;',
      'LOT;lot;each;;;',
      'BAD-1;;each;lot;;',
      'BAD-2;two;each;lot;soon;',
      'NEW-1;again;each;lot;;'
    );
    const report = await importProducts(world.sql, file, 'check');
    expect(verdicts(report)).toEqual([
      'NEW-1 new',
      'FULL changed',
      'LOT fault',
      'BAD-1 fault',
      'BAD-2 fault',
      'NEW-1 fault'
    ]);
    expect(report).toMatchObject({ written: false, passedOver: ['Colour'] });
    expect(report.rows.map((row) => row.row)).toEqual([2, 3, 4, 5, 6, 7]);
    expect(report.rows[5]!.messages[0]).toBe(
      'NEW-1 stands on row 2 already. Take one of the two out.'
    );
    expect(await readProduct(world.sql, 'NEW-1')).toBeNull();
  });
  it('with a wrong row writes nothing, unless the good ones are asked for', async () => {
    const file = csv('code,name,unit,marking', 'GOOD-1,one,each,lot', 'BAD-1,,each,lot');
    expect((await importProducts(world.sql, file, 'write')).written).toBe(false);
    expect(await readProduct(world.sql, 'GOOD-1')).toBeNull();
    expect((await importProducts(world.sql, file, 'write-good')).written).toBe(true);
    expect((await readProduct(world.sql, 'GOOD-1'))!.name).toBe('one');
  });
  it('leaves alone what the file has no column for, and takes away what is left empty', async () => {
    await importProducts(world.sql, csv('code,name,unit,net weight', 'FULL,full,each,'), 'write');
    expect(await readProduct(world.sql, 'FULL')).toMatchObject({
      netWeightKg: null,
      grossWeightKg: '0.25',
      marking: 'serial',
      units: [{ name: 'pack' }]
    });
  });
  it('knows numbers of a spreadsheet: leading zeros stay, 0.1 is 0.1', async () => {
    const { body } = await writeTable(
      'x',
      'xlsx',
      PRODUCT_COLUMNS.slice(0, 3).concat(
        PRODUCT_COLUMNS.filter((column) => ['marking', 'gtin', 'netWeightKg'].includes(column.key))
      ),
      [
        {
          code: '007',
          name: 'seven',
          unit: 'each',
          marking: 'lot',
          gtin: '00000095060004',
          netWeightKg: '0.1'
        }
      ]
    );
    expect((await importProducts(world.sql, body, 'check')).rows[0]).toMatchObject({
      what: '007',
      verdict: 'fault',
      messages: [expect.stringContaining('check digit')]
    });
  });
  it('a file that is none is refused in words', async () => {
    const refused = async (file: Uint8Array) =>
      importProducts(world.sql, file, 'check').then(
        () => 'taken',
        (error: { errors: { message: string }[] }) => error.errors[0]!.message
      );
    expect(await refused(csv('name,unit', 'x,each'))).toMatch(
      /^In its first row the column code is missing\. It has: name, unit\./
    );
    expect(await refused(csv('code,code,name,unit', 'x,x,x,each'))).toMatch(
      /the column code stands twice/
    );
    expect(await refused(csv(''))).toMatch(/has no rows/);
    expect(await refused(new Uint8Array([0x50, 0x4b, 3, 4, 9, 9, 9]))).toMatch(/no XLSX file/);
    expect(await refused(new Uint8Array([0xff, 0xfe, 0x00, 0xd8]))).toMatch(
      /neither XLSX nor text/
    );
    expect(await refused(new Uint8Array(5_000_001))).toMatch(/5 MB are the most/);
    expect(
      await refused(
        csv(
          'code,name,unit,marking',
          ...Array.from({ length: 20_001 }, (_, n) => `P${n},n,each,lot`)
        )
      )
    ).toMatch(/more than 20,000 rows/);
  });
});

describe('orders from a file', () => {
  it('rows of one number make one order, with announced numbers and dates as people write them', async () => {
    const file = csv(
      'Order,Supplier,Due,Product,Quantity,Announced serial,Expires',
      'PO-71,SUP,12 Mar 2027,SER,2,A-1,01/02/2030',
      'PO-71,SUP,12 Mar 2027,SER,,A-2,',
      'PO-71,SUP,12 Mar 2027,LOT,5.5,,',
      'PO-72,SUP,2027-03-13,LOT,1,,'
    );
    expect(verdicts(await importOrders(world.sql, world.actor, 'purchase', file, 'check'))).toEqual(
      ['PO-71 new', 'PO-72 new']
    );
    expect(await readOrder(world.sql, 'purchase', 'PO-71')).toBeNull();
    expect((await importOrders(world.sql, world.actor, 'purchase', file, 'write')).written).toBe(
      true
    );
    expect(await readOrder(world.sql, 'purchase', 'PO-71')).toMatchObject({
      due: '2027-03-12',
      lines: [
        {
          product: 'SER',
          quantity: '2',
          announced: [
            { serial: 'A-1', expires: '2030-02-01' },
            { serial: 'A-2', expires: null }
          ]
        },
        { product: 'LOT', quantity: '5.5' }
      ]
    });
  });
  it('faults name the row', async () => {
    const report = await importOrders(
      world.sql,
      world.actor,
      'sales',
      csv(
        'order,customer,due,product,quantity',
        'SO-1,CUS,2027-02-30,LOT,1',
        'SO-2,CUS,2027-01-01,GHOST,1',
        'SO-3,SUP,2027-01-01,LOT,-1',
        'SO-4,CUS,2027-01-01,LOT,1',
        'SO-4,CUS,2027-01-02,LOT,1'
      ),
      'write'
    );
    expect(report.rows.map((row) => [row.what, row.verdict, row.messages.length])).toEqual([
      ['SO-1', 'fault', 1],
      ['SO-2', 'fault', 1],
      ['SO-3', 'fault', 2],
      ['SO-4', 'fault', 1]
    ]);
    expect(report.rows[0]!.messages[0]).toContain('Row 2: “2027-02-30” is no date');
    expect(report.rows[3]!.messages[0]).toContain('An order has one.');
    expect(report.written).toBe(false);
  });
});
