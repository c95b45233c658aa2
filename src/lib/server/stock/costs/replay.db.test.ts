import { afterAll, beforeAll, expect, it } from 'vitest';
import { exactly, isClose, Model } from '../../../core/stock/costs/testing/model.ts';
import { times } from '../../../core/trace/testing/fraction.ts';
import { quantity } from '../../../core/quantity/quantity.ts';
import { reverse } from '../../ledger/kinds.ts';
import { Problem } from '../../kernel/problem.ts';
import { receive } from '../../receiving/kinds.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { correct, revalue } from '../kinds.ts';
import { carryCosts } from './carry-costs.ts';
import { readCostEvents } from './read-cost-events.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** A small generator of its own, so that the ledger is the same every time. */
let seed = 20_261_129;
const next = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
let papers = 0;

/** Lots of their own in each round, and in every other one no cost is unknown. */
let round = 0;
const lots = () => [1, 2, 3, 4].map((one) => `R${round}-${one}`);
const anyLot = () => lots()[next(4)]!;
let receipts: number[] = [];
let events: number[] = [];

async function receiveSome(): Promise<void> {
  const cost = round % 2 === 0 && next(8) === 0 ? {} : { unitCost: String(next(1_000) / 100) };
  const marks = [{ lot: anyLot() }];
  const line = { product: 'LOT', place: 'RACK', quantity: String(1 + next(20)), marks, ...cost };
  const document = `RC-${++papers}`;
  const { event } = await world.book(receive, { document, supplier: 'SUP', lines: [line] });
  receipts.push(event.id);
  events.push(event.id);
}

async function doAnything(): Promise<void> {
  const document = `RD-${++papers}`;
  const quantity = String((1 + next(300)) / 100);
  const lot = anyLot();
  const book = async (booking: Promise<{ event: { id: number } }>) =>
    events.push((await booking).event.id);
  const what = next(8);
  if (what < 2) return receiveSome();
  if (what === 2)
    await book(
      world.build([
        {
          outputs: [{ product: 'LOT', lot: anyLot(), quantity: '1.5' }],
          inputs: [...new Set([lot, anyLot()])].map((one) => ({
            ...{ product: 'LOT', lot: one, quantity }
          }))
        }
      ])
    );
  if (what === 3) await book(world.ship([{ product: 'LOT', marks: [{ lot, quantity }] }]));
  if (what === 4) {
    const kind = next(2) === 0 ? ('gain' as const) : ('loss' as const);
    const line = { product: 'LOT', place: 'RACK', lot, quantity };
    await book(world.book(correct, { document, kind, reason: 'counted', lines: [line] }));
  }
  if (what === 5)
    await world.book(reverse, { document, event: events[next(events.length)]!, reason: 'no' });
  if (what >= 6) {
    const receipt = receipts[next(receipts.length)]!;
    const lines = lots().map((one) => ({ product: 'LOT', lot: one, unitCost: String(next(50)) }));
    const [came] = await world.sql<{ lot: string }[]>`
      SELECT m.number AS lot
      FROM movement v JOIN mark m ON m.id = v.mark_id
      WHERE v.event_id = ${receipt}
    `;
    const told = { document, receipt, reason: 'billed' };
    await world.book(revalue, { ...told, lines: lines.filter((one) => one.lot === came!.lot) });
  }
}

it('costs carried as they were booked, corrected and taken back are those of what holds in the end', async () => {
  let refused = 0;
  for (let n = 0; n < 240; n++) {
    if (n % 24 === 0) [round, receipts, events] = [round + 1, [], []];
    try {
      if (receipts.length === 0) await receiveSome();
      await doAnything();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      refused++; // more than there is, or what has moved on
    }
    // Carried now and then: how often must say nothing.
    if (next(3) === 0) await carryCosts(world.sql);
  }
  await carryCosts(world.sql);
  expect(refused).toBeLessThan(160);

  const [{ marks, all }] = await world.sql<[{ marks: number[]; all: number[] }]>`
    SELECT ARRAY(SELECT id FROM mark) AS marks, ARRAY(SELECT id FROM event ORDER BY id) AS all
  `;
  const holds = await world.sql.begin((tx) =>
    readCostEvents(tx, { events: all, marks, toldUntil: Math.max(...all) })
  );
  const model = new Model();
  for (const event of holds) model.pass(event);
  const carried = await world.sql<{ mark: number; cost: string | null }[]>`
    SELECT DISTINCT ON (mark_id) mark_id AS mark, unit_cost AS cost
    FROM mark_cost
    ORDER BY mark_id, event_id DESC, told_by DESC
  `;
  let compared = 0;
  for (const { mark, cost } of carried) {
    const { lying, worth } = model.of(mark);
    if (lying.n === 0n) continue;
    expect([mark, cost === null]).toEqual([mark, worth === null]);
    if (cost === null || worth === null) continue;
    expect(isClose(times(exactly(quantity(cost)), lying), worth), `mark ${mark}`).toBe(true);
    compared++;
  }
  expect(compared).toBeGreaterThan(10);
});
