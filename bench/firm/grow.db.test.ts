import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect, type Sql } from '../../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../../src/lib/server/ledger/reconcile.ts';
import { copyTemplate } from '../../src/lib/server/testing/copy-template.ts';
import { withDatabase } from '../../src/lib/server/testing/template.ts';
import { seedDemo } from '../../demo/seed.ts';
import { pickSample } from '../screens/sample.ts';
import { growFirm } from './grow.ts';

const SIZE = { orders: 240, links: 240 * 16, onHand: 240 * 12, products: 60 };
const NAME = `firm_${process.pid}`;
let maintenance: Sql;
let owner: Sql;

beforeAll(async () => {
  maintenance = connect(process.env.EARMARK_TEST_URL!, { max: 1 });
  await copyTemplate(maintenance, NAME);
  const app = connect(withDatabase(process.env.EARMARK_TEST_APP_URL!, NAME), {
    max: 4,
    role: 'earmark_app'
  });
  await seedDemo(app, { now: new Date(), password: 'a demo password' });
  await app.end();
  owner = connect(withDatabase(process.env.EARMARK_TEST_URL!, NAME), { max: 2 });
  await growFirm(owner, SIZE);
});
afterAll(async () => {
  await owner.end();
  await maintenance.unsafe(`DROP DATABASE ${NAME} WITH (FORCE)`);
  await maintenance.end();
});

describe('the large firm', () => {
  it('is what bookings would have written: reconciled from its rows alone', async () =>
    expect((await reconcile(owner)).breaks).toEqual([]));

  it('has every law and index back that it was filled without', async () => {
    const [{ off }] = await owner<[{ off: number }]>`
      SELECT count(*)::integer AS off
      FROM pg_trigger
      WHERE tgenabled <> 'O' AND NOT tgisinternal
    `;
    const laws = (sql: Sql) => sql<{ def: string }[]>`
      SELECT conrelid::regclass || ' ' || conname || ' ' || pg_get_constraintdef(oid) AS def
      FROM pg_constraint
      WHERE contype = 'f'
      UNION ALL
      SELECT indexdef FROM pg_indexes WHERE schemaname = 'public'
      ORDER BY 1
    `;
    const template = connect(withDatabase(process.env.EARMARK_TEST_URL!, 'earmark_template'), {
      max: 1
    });
    const expected = await laws(template);
    await template.end();
    expect(off).toBe(0);
    expect(await laws(owner)).toEqual(expected);
  });

  it('has as many orders, links and things on hand as were asked for', async () => {
    const [told] = await owner<[{ orders: number; links: number; onHand: number }]>`
      SELECT (
          SELECT count(*)::integer FROM trade_order WHERE kind = 'sales' AND number ~ '^L'
        ) AS orders,
        (
          SELECT count(*)::integer
          FROM transformation_input i
          JOIN mark m ON m.id = i.mark_id
          WHERE m.number ~ '^L[LP]-'
        ) AS links,
        (SELECT count(*)::integer FROM stock WHERE quantity > 0) AS "onHand"
    `;
    expect(told.orders).toBe(SIZE.orders);
    expect(told.links / SIZE.links).toBeGreaterThan(0.9);
    expect(told.links / SIZE.links).toBeLessThan(1.1);
    expect(told.onHand / SIZE.onHand).toBeGreaterThan(0.8);
    expect(told.onHand / SIZE.onHand).toBeLessThan(1.2);
  });

  it('has orders in every state, promises, picks, cartons, holds, tests, cases and jobs', async () => {
    const counted = await owner<{ what: string; rows: number }[]>`
      SELECT what, count(*)::integer AS rows
      FROM (
        SELECT 'reservation' AS what FROM reservation
        UNION ALL
        SELECT 'pick' FROM pick
        UNION ALL
        SELECT 'carton' FROM logistic_unit WHERE sscc ~ '^3952'
        UNION ALL
        SELECT 'test' FROM quality_test WHERE key ~ '^large'
        UNION ALL
        SELECT 'case' FROM recall_case WHERE number ~ '^L'
        UNION ALL
        SELECT 'job ' || state FROM service_job WHERE number ~ '^L'
        UNION ALL
        SELECT 'draft' FROM draft
        UNION ALL
        SELECT 'label' FROM label_job
        UNION ALL
        SELECT 'count' FROM stock_count WHERE document ~ '^L'
      ) AS every
      GROUP BY what
      ORDER BY what
    `;
    expect(counted.map(({ what }) => what)).toEqual([
      'carton',
      'case',
      'count',
      'draft',
      'job ended',
      'job waiting for unit',
      'label',
      'pick',
      'reservation',
      'test'
    ]);
    const sample = await pickSample(owner);
    expect(sample.sales).toMatch(/^LSO-/);
    expect(sample.made).toMatch(/^LM-/);
  });
});
