import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { TOPICS, type Topic } from '../../core/topics.ts';
import { connect, type Sql } from '../kernel/db/client.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { Order } from '../orders/schemas.ts';
import { putOrder } from '../orders/write-order.ts';
import { News } from './news.ts';

let world: World;
let pool: Sql;
const openPool = (): Sql => connect(world.appUrl, { max: 2, role: 'earmark_app' });
beforeAll(async () => {
  world = await makeWorld();
  pool = openPool();
});
afterAll(async () => {
  await pool.end();
  await world.end();
});

const told: Topic[] = [];
let wake = (): void => {};
const tell = (topics: readonly Topic[]): void => {
  told.push(...topics);
  wake();
};
beforeEach(() => {
  told.length = 0;
});

/** Settles once a topic was told. */
async function heard(topic: Topic): Promise<void> {
  while (!told.includes(topic))
    await new Promise<void>((done) => {
      wake = done;
    });
}

const enterOrder = (number: string) =>
  putOrder(
    world.sql,
    world.actor,
    'purchase',
    number,
    Order.parse({ partner: 'SUP', due: '2030-01-01', lines: [{ product: 'LOT', quantity: '1' }] })
  );

describe('news', () => {
  it('are told of what is committed, by whatever process, and of nothing else', async () => {
    const news = new News(() => pool);
    const leave = await news.follow(tell);
    await world.sql
      .begin(async (tx) => {
        await tx`UPDATE trade_order SET note = note`;
        throw new Error('changed my mind');
      })
      .catch(() => {});
    await world.receive('LOT', [{ lot: 'NEWS' }], '1');
    await heard('ledger');
    expect(told).not.toContain('orders');
    await enterOrder('P-1');
    await heard('orders');
    leave();
    expect(news.followers).toBe(0);
  });

  it('are told of everything after a line that was lost, as nobody knows what was missed', async () => {
    const news = new News(() => pool);
    const leave = await news.follow(tell);
    await world.owner`
      SELECT pg_terminate_backend(pid)
      FROM pg_stat_activity
      WHERE datname = current_database() AND query ILIKE 'listen%'
    `;
    for (const topic of TOPICS) await heard(topic);
    await enterOrder('P-2');
    await heard('orders');
    leave();
  });

  it('are heard on the pool that took the place of one that broke', async () => {
    let current = pool;
    const news = new News(() => current);
    const leave = await news.follow(tell);
    current = openPool();
    const alsoLeaves = await news.follow(() => {});
    await enterOrder('P-3');
    await heard('orders');
    leave();
    alsoLeaves();
    await current.end();
  });
});
