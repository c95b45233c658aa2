import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BillPart } from '../../core/catalogue/bill.ts';
import { asAsked } from '../kernel/db/preconditions.ts';
import { tagOf } from '../kernel/db/entity-tag.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { billVersions, putBill } from './bills.ts';
import { putProduct } from './products.ts';
import { seenOfBill } from './seen-bill.ts';
import { readSpec } from './specs.ts';

const TODAY = '2026-06-01';
const KIT = { name: 'kit', unit: 'each', decimals: 0, made: true, marking: 'serial' } as const;
let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putProduct(world.sql, 'KIT', KIT);
});
afterAll(() => world.end());

/** A PUT of a bill of so many per unit, from a day on, as a route makes it. */
function put(quantity: string, headers: Record<string, string> = {}, validFrom = TODAY) {
  const request = new Request('http://earmark.test/', { method: 'PUT', headers });
  const part: BillPart = {
    ...{ product: 'KG', quantity, per: 'unit', scrapPercent: '0', follow: 'batch' },
    ...{ positions: [], alternates: [], revision: null }
  };
  const bill = { batch: null, note: '', validFrom, parts: [part], coProducts: [] };
  return asAsked(world.sql, request, {
    ...{ what: 'bill', code: 'KIT' },
    read: (tx) => seenOfBill(tx, 'KIT', TODAY),
    keep: (tx) => putBill(tx, 'KIT', bill, null)
  });
}
const seen = async (): Promise<string> => tagOf((await seenOfBill(world.sql, 'KIT', TODAY))!);

describe('what whoever changes a bill has seen of it', () => {
  it('is nothing while there is none; a first version is refused where there is one by now', async () => {
    expect(await seenOfBill(world.sql, 'KIT', TODAY)).toBeNull();
    await put('1', { 'if-none-match': '*' });
    await expect(put('2', { 'if-none-match': '*' })).rejects.toMatchObject({
      status: 412,
      errors: [{ code: 'record.changed' }]
    });
    expect(await billVersions(world.sql, 'KIT')).toHaveLength(1);
  });

  it('lets one of two go on from the same version, and tells the other', async () => {
    const both = await seen();
    const done = await Promise.allSettled([
      put('3', { 'if-match': both }),
      put('4', { 'if-match': both })
    ]);
    expect(done.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await billVersions(world.sql, 'KIT')).toHaveLength(2);
  });

  it('is another by a version that is not in force yet, and by the day it comes into force', async () => {
    const before = await seen();
    await put('5', { 'if-match': before }, '2026-09-01');
    const after = await seen();
    expect(after).not.toBe(before);
    expect(tagOf((await seenOfBill(world.sql, 'KIT', '2026-09-01'))!)).not.toBe(after);
  });

  it('is a customer’s own for limits', async () => {
    expect(await readSpec(world.sql, 'KIT', null)).toBeNull();
    await world.sql`
      INSERT INTO spec (product_id, partner_id, version, made_by, body)
      SELECT p.id, NULL, 1, (SELECT min(id) FROM person), '{}'
      FROM product p
      WHERE p.code = 'KIT'
    `;
    expect(await readSpec(world.sql, 'kit', null)).toMatchObject({ version: 1 });
    expect(await readSpec(world.sql, 'KIT', 'ANYBODY')).toBeNull();
  });
});
