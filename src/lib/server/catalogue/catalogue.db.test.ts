import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Actor } from '../kernel/actor.ts';
import { readOrder, listOrders } from '../orders/read-orders.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { putOrder, setOrderClosed } from '../orders/write-order.ts';
import { putPartner, putPlace, readPlace } from './partners-places.ts';
import { consequencesOf, putProduct, readProduct } from './products.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const product = (more: Partial<Parameters<typeof putProduct>[2]> = {}) => ({
  name: 'thing',
  unit: 'each',
  decimals: 0,
  made: false,
  marking: 'lot' as const,
  ...more
});
/** The errors a change is refused with, as `code path`. */
async function refused(change: Promise<unknown>): Promise<string[]> {
  try {
    await change;
  } catch (error) {
    return (error as { errors: { code: string; path: string }[] }).errors.map(
      (one) => `${one.code} ${one.path}`
    );
  }
  throw new Error('It was not refused.');
}

describe('products', () => {
  it('are set up once and changed afterwards, found whatever the capitals', async () => {
    expect(
      (
        await putProduct(
          world.sql,
          ' Thing-1 ',
          product({ gtin: '6291041500213', netWeightKg: '0.250', shelfLifeDays: 10 })
        )
      ).created
    ).toBe(true);
    expect(await readProduct(world.sql, 'thing-1')).toMatchObject({
      code: 'Thing-1',
      gtin: '06291041500213',
      netWeightKg: '0.25',
      shelfLifeDays: 10
    });
    expect((await putProduct(world.sql, 'THING-1', product({ name: 'renamed' }))).created).toBe(
      false
    );
    expect(await readProduct(world.sql, 'Thing-1')).toMatchObject({
      code: 'Thing-1',
      name: 'renamed',
      gtin: null,
      shelfLifeDays: null
    });
  });

  it('are refused with everything that is wrong', async () => {
    expect(
      await refused(
        putProduct(
          world.sql,
          'BAD',
          product({ gtin: '123', netWeightKg: 'heavy', decimals: 2, marking: 'serial' })
        )
      )
    ).toEqual([
      'number.malformed gtin',
      'quantity.mismatch netWeightKg',
      'quantity.not-whole decimals'
    ]);
    expect(await refused(putProduct(world.sql, 'B\u0007D', product()))).toEqual([
      'number.malformed code'
    ]);
    await putProduct(world.sql, 'HAS-GTIN', product({ gtin: '09506000134352' }));
    expect(
      await refused(putProduct(world.sql, 'WANTS-GTIN', product({ gtin: '09506000134352' })))
    ).toEqual(['mark.duplicate gtin']);
  });

  it('keep their unit once there are marks of them; marking only gets finer while numbered stock is on hand', async () => {
    await putProduct(world.sql, 'MARKED', product());
    await world.receive('MARKED', [{ lot: 'M1' }], '3');
    expect(await refused(putProduct(world.sql, 'MARKED', product({ marking: 'none' })))).toEqual([
      'balance.open marking'
    ]);
    expect(await refused(putProduct(world.sql, 'MARKED', product({ unit: 'kg' })))).toEqual([
      'balance.open unit'
    ]);
    expect(await consequencesOf(world.sql, 'MARKED', 'serial')).toMatchObject({
      from: 'lot',
      may: true,
      owes: { kind: 'lot', amount: '3 each' }
    });
    expect(
      (await putProduct(world.sql, 'MARKED', product({ marking: 'serial-in-lot' }))).product.marking
    ).toBe('serial-in-lot');
    expect(await refused(putProduct(world.sql, 'MARKED', product({ marking: 'none' })))).toEqual([
      'balance.open marking'
    ]);
    expect(
      (
        await putProduct(
          world.sql,
          'MARKED',
          product({ name: 'better name', marking: 'serial-in-lot' })
        )
      ).product.name
    ).toBe('better name');
  });

  it('never go into themselves, not through any number of levels', async () => {
    for (const code of ['TOP', 'MID', 'LOW'])
      await putProduct(world.sql, code, product({ made: true }));
    await putProduct(
      world.sql,
      'TOP',
      product({ made: true, components: [{ product: 'MID', quantity: '2' }] })
    );
    await putProduct(
      world.sql,
      'MID',
      product({ made: true, components: [{ product: 'low', quantity: '0.5' }] })
    );
    await expect(
      putProduct(
        world.sql,
        'LOW',
        product({ made: true, components: [{ product: 'TOP', quantity: '1' }] })
      )
    ).rejects.toMatchObject({
      errors: [{ message: expect.stringContaining('LOW → TOP → MID → LOW') }]
    });
    expect((await readProduct(world.sql, 'LOW'))!.components).toEqual([]);
    expect((await readProduct(world.sql, 'MID'))!.components).toMatchObject([
      { product: 'LOW', quantity: '0.5' }
    ]);
  });

  it('have components that are known, counted and named once', async () => {
    expect(
      await refused(
        putProduct(
          world.sql,
          'TOP',
          product({
            made: true,
            components: [
              { product: 'GHOST', quantity: '1' },
              { product: 'MID', quantity: '0' },
              { product: 'LOW', quantity: '1' },
              { product: 'low', quantity: '2' }
            ]
          })
        )
      )
    ).toEqual([
      'product.unknown components[0]',
      'quantity.mismatch components[1]',
      'mark.duplicate components[3]'
    ]);
    expect((await readProduct(world.sql, 'TOP'))!.components).toHaveLength(1);
  });

  it('set up by twenty at once are there once', async () => {
    const results = await Promise.allSettled(
      Array.from({ length: 20 }, () => putProduct(world.sql, 'ONCE', product()))
    );
    expect(
      results.filter((result) => result.status === 'fulfilled' && result.value.created)
    ).toHaveLength(1);
    expect((await world.sql`SELECT 1 FROM product WHERE code = 'ONCE'`).length).toBe(1);
  });
});

describe('partners and places', () => {
  it('check a GLN, and make a place’s site with it', async () => {
    expect(
      await refused(
        putPartner(world.sql, 'GLN', {
          name: 'x',
          supplier: true,
          customer: false,
          gln: '1234567890123'
        })
      )
    ).toEqual(['number.malformed gln']);
    expect(
      (
        await putPartner(world.sql, 'GLN', {
          name: 'x',
          supplier: true,
          customer: false,
          gln: '9506000134352'
        })
      ).created
    ).toBe(true);
    expect(
      (await putPlace(world.sql, 'NEW-BIN', { name: 'bin', site: 'NEW-SITE', kind: 'bin' })).created
    ).toBe(true);
    expect(
      (await putPlace(world.sql, 'new-bin', { name: 'bin again', site: 'new-site' })).created
    ).toBe(false);
    expect(await readPlace(world.sql, 'NEW-BIN')).toMatchObject({
      name: 'bin again',
      kind: 'bin',
      site: 'NEW-SITE'
    });
  });
});

describe('orders', () => {
  const order = (lines: { product: string; quantity: string }[], more: object = {}) => ({
    partner: 'SUP',
    due: '2026-12-01',
    note: '',
    lines,
    ...more
  });

  it('are refused with everything that is wrong', async () => {
    expect(
      await refused(
        putOrder(
          world.sql,
          world.actor,
          'purchase',
          'PO-BAD',
          order(
            [
              { product: 'GHOST', quantity: '1' },
              { product: 'LOT', quantity: '-1' },
              { product: 'SER', quantity: '0.5' }
            ],
            { partner: 'CUS', place: 'NOWHERE' }
          )
        )
      )
    ).toEqual([
      'partner.unknown partner',
      'place.unknown place',
      'product.unknown lines[0].product',
      'quantity.mismatch lines[1].quantity',
      'quantity.not-whole lines[2].quantity'
    ]);
    expect(
      await refused(
        putOrder(
          world.sql,
          world.actor,
          'work',
          'WO-BAD',
          order([{ product: 'SER', quantity: '1' }], { partner: null })
        )
      )
    ).toEqual(['mark.wrong-product lines[0].product']);
    expect(
      await refused(
        putOrder(
          world.sql,
          world.actor,
          'sales',
          'SO-BAD',
          order([{ product: 'SER', quantity: '1' }], { partner: null })
        )
      )
    ).toEqual(['partner.unknown partner']);
  });

  it('may be changed until something is booked against them', async () => {
    await putOrder(
      world.sql,
      world.actor,
      'purchase',
      'PO-CH',
      order([{ product: 'LOT', quantity: '5' }])
    );
    const changed = await putOrder(
      world.sql,
      world.actor,
      'purchase',
      'po-ch',
      order([
        { product: 'LOT', quantity: '6' },
        { product: 'SER', quantity: '2' }
      ])
    );
    expect(changed).toMatchObject({
      created: false,
      order: { state: 'waiting', lines: [{ quantity: '6' }, { quantity: '2' }] }
    });
    await world.sql`INSERT INTO event (kind, document, order_id, happened_at, booked_by) SELECT 'receive', 'PO-CH', id, now(), ${world.actor.personId} FROM trade_order WHERE number = 'PO-CH' OR number = 'po-ch'`;
    await expect(
      putOrder(
        world.sql,
        world.actor,
        'purchase',
        'PO-CH',
        order([{ product: 'LOT', quantity: '1' }])
      )
    ).rejects.toMatchObject({ status: 409 });
  });

  it('are entered by who books them', async () => {
    const receiver: Actor = { ...world.actor, roles: ['receiver'] };
    await expect(
      putOrder(
        world.sql,
        receiver,
        'sales',
        'SO-1',
        order([{ product: 'SER', quantity: '1' }], { partner: 'CUS' })
      )
    ).rejects.toMatchObject({ status: 403 });
    expect(
      (
        await putOrder(
          world.sql,
          receiver,
          'purchase',
          'PO-OWN',
          order([{ product: 'SER', quantity: '1' }])
        )
      ).created
    ).toBe(true);
    await expect(
      setOrderClosed(world.sql, receiver, 'purchase', 'PO-NONE', true)
    ).rejects.toMatchObject({ status: 404 });
  });

  it('show how far they are, and wait most urgent first', async () => {
    await putOrder(
      world.sql,
      world.actor,
      'sales',
      'SO-LATE',
      order(
        [
          { product: 'LOT', quantity: '4' },
          { product: 'SER', quantity: '1' }
        ],
        { partner: 'CUS', due: '2026-01-01' }
      )
    );
    await putOrder(
      world.sql,
      world.actor,
      'sales',
      'SO-SOON',
      order([{ product: 'LOT', quantity: '4' }], { partner: 'CUS', due: '2026-01-02' })
    );
    await world.receive('LOT', [{ lot: 'ORD' }], '10');
    const shipment = (quantity: string) => ({
      document: 'SO-LATE',
      customer: 'CUS',
      lines: [{ product: 'LOT', place: 'DOCK', marks: [{ lot: 'ORD', quantity }] }]
    });
    const { ship } = await import('../shipping/kinds.ts');
    await world.book(ship, shipment('3'));
    expect(await readOrder(world.sql, 'sales', 'so-late')).toMatchObject({
      state: 'part',
      lines: [
        { done: '3', left: '1' },
        { done: '0', left: '1' }
      ],
      events: [{ kind: 'ship', marks: 1 }]
    });
    expect(
      (await listOrders(world.sql, 'sales', 'open')).map((one) => [
        one.number,
        one.state,
        one.left,
        Number(one.part.toFixed(3))
      ])
    ).toEqual([
      ['SO-LATE', 'part', '2', 0.375],
      ['SO-SOON', 'waiting', '4', 0]
    ]);
    await setOrderClosed(world.sql, world.actor, 'sales', 'SO-LATE', true);
    expect((await listOrders(world.sql, 'sales', 'open')).map((one) => one.number)).toEqual([
      'SO-SOON'
    ]);
    expect(
      (await listOrders(world.sql, 'sales', 'done')).map((one) => [one.number, one.state])
    ).toEqual([['SO-LATE', 'closed']]);
  });
});
