import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { randomBytes } from 'node:crypto';
import { connect, type Sql } from '../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../src/lib/server/ledger/reconcile.ts';
import { readLooseEnds } from '../src/lib/server/trace/loose-ends.ts';
import { readPicksOf } from '../src/lib/server/shipping/picks.ts';
import { readRecall } from '../src/lib/server/recall/read-recall.ts';
import { readReturns } from '../src/lib/server/shipping/returns.ts';
import { readSerialsLater } from '../src/lib/server/shipping/sales.ts';
import { readCountHead } from '../src/lib/server/stock/counts/count-head.ts';
import { listTransfers, readTransfer } from '../src/lib/server/stock/transfers/read-transfers.ts';
import { readTransferHead } from '../src/lib/server/stock/transfers/transfer-head.ts';
import { copiedTexts } from '../src/lib/server/seal/testing/copied-texts.ts';
import { leavesOf } from '../src/lib/server/seal/leaves.ts';
import { findMarkId } from '../src/lib/server/ledger/find-mark.ts';
import { traceMark } from '../src/lib/server/trace/trace.ts';
import { copyTemplate } from '../src/lib/server/testing/copy-template.ts';
import { withDatabase } from '../src/lib/server/testing/template.ts';
import { seedDemo } from './seed.ts';

const NOW = new Date('2026-11-23T10:00:00Z');
let maintenance: Sql;
const opened: { sql: Sql; name: string }[] = [];

async function seeded(now: Date): Promise<Sql> {
  const name = `demo_${randomBytes(5).toString('hex')}`;
  await copyTemplate(maintenance, name);
  const sql = connect(withDatabase(process.env.EARMARK_TEST_APP_URL!, name), {
    max: 4,
    role: 'earmark_app'
  });
  opened.push({ sql, name });
  await seedDemo(sql, { now, password: 'a demo password' });
  return sql;
}
let demo: Sql;
beforeAll(async () => {
  maintenance = connect(process.env.EARMARK_TEST_URL!, { max: 1 });
  demo = await seeded(NOW);
});
afterAll(async () => {
  for (const { sql, name } of opened) {
    await sql.end();
    await maintenance.unsafe(`DROP DATABASE ${name} WITH (FORCE)`);
  }
  await maintenance.end();
});

describe('the demo company', () => {
  it('is booked through the ledger and reconciles', async () =>
    expect((await reconcile(demo)).breaks).toEqual([]));

  it('is read for its seals as PostgreSQL writes it, whatever kind of event it is', async () => {
    const events = (await demo<{ id: number }[]>`SELECT id FROM event`).map(({ id }) => id);
    const written = await leavesOf(demo, events);
    const copied = await copiedTexts(demo, events);
    for (const { event, text } of written) expect(copied.get(event)).toBe(text);
  });

  it('has its products, and thirty orders or more of each story', async () => {
    const [counts] = await demo<{ orders: number; open: number; marks: number }[]>`
      SELECT (SELECT count(*) FROM trade_order) AS orders, (SELECT count(*) FROM mark) AS marks,
        (SELECT count(*) FROM trade_order o WHERE NOT EXISTS (SELECT FROM event e WHERE e.order_id = o.id)) AS open`;
    expect((await demo`SELECT code FROM product`).length).toBe(17);
    expect(counts!.orders).toBeGreaterThan(100);
    expect(counts!.open).toBeGreaterThanOrEqual(8);
    expect(counts!.marks).toBeGreaterThan(300);
  });

  it('goes four levels down from a fabric roll and from a cylinder lot', async () => {
    const deepest = async (product: string) => {
      const [row] = await demo<
        { number: string }[]
      >`SELECT m.number FROM mark m JOIN product p ON p.id = m.product_id WHERE p.code = ${product} AND m.kind = 'lot' ORDER BY m.id LIMIT 1`;
      const trace = await traceMark(
        demo,
        (await findMarkId(demo, product, row!.number, undefined))!,
        'downstream'
      );
      return [
        ...new Set(trace!.marks.sort((a, b) => a.level - b.level).map((mark) => mark.product))
      ];
    };
    expect(await deepest('FAB-210')).toEqual(['FAB-210', 'PNL', 'BLD', 'TN150', 'TN275']);
    expect((await deepest('CYL-33')).filter((code) => code !== 'RK-1' && code !== 'RK-6')).toEqual([
      'CYL-33',
      'INF',
      'TN150'
    ]);
  });

  it('has a held bobbin lot that reaches inflators, jackets and kits at four customers, and balances', async () => {
    const trace = (await traceMark(
      demo,
      (await findMarkId(demo, 'BOB-S', 'BOB-2511', undefined))!,
      'downstream'
    ))!;
    expect(trace.root.state).toBe('held');
    expect(new Set(trace.marks.map((mark) => mark.product))).toEqual(
      new Set(['BOB-S', 'INF', 'TN150', 'TN275', 'RK-1', 'RK-6'])
    );
    expect(new Set(trace.ends.customers.map((end) => end.partner)).size).toBe(4);
    expect(trace.balance.open).toBe('0');
    // Nothing was made of it after it was held.
    const held = trace.events.find((event) => event.kind === 'hold')!;
    expect(
      trace.events.filter(
        (event) =>
          event.kind === 'build' &&
          event.at > held.at &&
          event.lines.some((line) => line.mark === trace.root.id)
      )
    ).toEqual([]);
  });

  it('ships: a pallet that left with its cartons, a list half picked, an order that names its serials later, a jacket that came back', async () => {
    const [left] = await demo<
      { units: number; pallets: number }[]
    >`SELECT count(*)::int AS units, count(*) FILTER (WHERE u.kind = 'pallet')::int AS pallets FROM unit_shipped s JOIN logistic_unit u ON u.id = s.unit_id`;
    expect(left).toEqual({ units: 3, pallets: 1 });
    expect(
      (await readPicksOf(demo, 'SO-3325', new Date().toISOString().slice(0, 10))).map(
        (pick) => `${pick.number ?? 'any'} ${pick.picked}/${pick.quantity}, ${pick.packed} packed`
      )
    ).toEqual(['RK1-108 5/8, 3 packed', 'any 0/1, 0 packed']);
    expect(await readSerialsLater(demo)).toMatchObject([
      { order: 'SO-3323', product: 'TN275', missing: '2' }
    ]);
    expect((await readReturns(demo)).rows.map((row) => [row.product, row.state, row.gone])).toEqual(
      [['TN150', 'held', false]]
    );
  });

  it('recalls the bobbin lot: four customers, letters out, the first answers in, and its trace accounts for all of it', async () => {
    const page = (await readRecall(demo, 'RC-0001', NOW))!;
    expect(page).toMatchObject({
      suspects: [{ number: 'BOB-2511' }],
      balances: [{ open: '0' }],
      change: { shipments: [] }
    });
    expect(page.customers).toHaveLength(4);
    expect(page.notices).toHaveLength(4);
    expect(page.standing.reported).not.toEqual([]);
    expect(page.hindrances.join()).toContain('are not accounted for');
  });

  it('has a van with two heads under way, a rack that was counted, and a tank whose trace obeys time', async () => {
    const head = await readTransferHead(demo, 'TR-0001');
    const { underWay } = await readTransfer(demo, head);
    expect(underWay.rows.map((row) => row.number)).toEqual(['PD-0607', 'PD-0608']);
    expect((await listTransfers(demo)).rows.map((row) => [row.document, row.toLeave])).toEqual([
      ['TR-0001', 0],
      ['TR-0002', 2]
    ]);
    expect(await readCountHead(demo, 'CNT-0001')).toMatchObject({ state: 'approved' });
    // What was topped up in the tank came after the first batch had been made of it.
    const [second] = await demo<{ id: number }[]>`
      SELECT id FROM event WHERE kind = 'receive' AND document = 'DN-4466'
    `;
    const root = (await findMarkId(demo, 'SEAL', 'TANK-1', undefined))!;
    const all = (await traceMark(demo, root, 'downstream'))!;
    const since = (await traceMark(demo, root, 'downstream', { from: [second!.id] }))!;
    const customers = (trace: typeof all) => trace.ends.customers.map((end) => end.partner).sort();
    expect(customers(all)).toEqual(['NORTHQUAY', 'SKARROW']);
    expect(customers(since)).toEqual(['SKARROW']);
  });

  it('has loose ends of its own, none of them an open balance', async () => {
    const { counts } = await readLooseEnds(demo, NOW.toISOString().slice(0, 10));
    expect(counts).toMatchObject({ 'balance open': 0, 'origin unknown': 0, 'serials to name': 1 });
    expect(counts['number missing']).toBeGreaterThan(0);
  });

  it('is the same whenever it is seeded, but for the dates', async () => {
    const earlier = await seeded(new Date(NOW.getTime() - 40 * 86_400_000));
    const digest = (sql: Sql) => sql`
      SELECT md5(string_agg(line, E'\n' ORDER BY line)) AS sum FROM (
        SELECT e.kind || e.document || ' ' || p.code || coalesce(m.number, '') || c.code || v.quantity || ' ' || e.happened_at::time AS line
        FROM movement v JOIN event e ON e.id = v.event_id JOIN mark m ON m.id = v.mark_id JOIN product p ON p.id = m.product_id JOIN place c ON c.id = v.place_id WHERE e.happened_at < (SELECT max(happened_at) - interval '1 day' FROM event)) lines`;
    expect((await digest(earlier))[0]!.sum).toBe((await digest(demo))[0]!.sum);
  });
});
