import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { build } from '../making/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { ship } from '../shipping/kinds.ts';
import { correct } from '../stock/kinds.ts';
import { readLooseEnds } from '../trace/loose-ends.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { reverse } from './kinds.ts';

let world: World;
let n = 0;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** Hours before now, as an instant. */
const ago = (hours: number): string => new Date(Date.now() - hours * 3_600_000).toISOString();
const came = (lot: string, quantity: string, at: string) =>
  world.book(receive, {
    ...{ document: `R-${++n}`, supplier: 'SUP', at },
    lines: [{ product: 'LOT', place: 'DOCK', quantity, marks: [{ lot, quantity }] }]
  });
const left = (lot: string, quantity: string, at: string, reasons = {}) => ({
  ...{ document: `S-${++n}`, customer: 'CUS', at, reasons },
  lines: [{ product: 'LOT', place: 'DOCK', marks: [{ lot, quantity }] }]
});

describe('law 11: by its own dates, too, no mark is below zero', () => {
  it('refuses what was shipped before it came, and goes on with a reason as a loose end', async () => {
    const receipt = await came('T1', '5', ago(10));
    expect(await world.refused(ship, left('T1', '2', ago(20)))).toMatchObject([
      {
        ...{ code: 'time.order', number: 'T1', answer: 'reason' },
        message: expect.stringContaining(`(event ${receipt.event.id})`)
      }
    ]);
    const reasons = { 'time.order': 'the receipt was booked a day late' };
    const { event } = await world.book(ship, left('T1', '2', ago(20), reasons));
    const early = async () =>
      (await readLooseEnds(world.sql, '2026-11-25')).ends.filter(
        (end) => end.kind === 'before it came'
      );
    expect(await early()).toMatchObject([{ title: 'T1 of LOT', href: `/events/${event.id}` }]);
    await world.book(reverse, { document: 'X', event: event.id, reason: 'wrong day' } as never);
    expect(await early()).toEqual([]);
  });
  it('refuses a back-dated booking between two others that takes what the later one took', async () => {
    await came('T2', '5', ago(30));
    await world.book(ship, left('T2', '4', ago(10)));
    await came('T2', '6', ago(5));
    expect(await world.refused(ship, left('T2', '2', ago(20)))).toMatchObject([
      { code: 'time.order', message: expect.stringContaining('what ship S-') }
    ]);
    await world.book(ship, left('T2', '1', ago(20)));
  });
  it('lets what ties with its arrival go on, and what is booked late but dated after', async () => {
    const at = ago(3);
    await came('T3', '5', at);
    await world.book(ship, left('T3', '2', at));
    await world.book(ship, left('T3', '3', ago(1)));
  });
  it('holds for builds, losses and scrap alike', async () => {
    await came('T4', '5', ago(1));
    const at = ago(2);
    const lot = { product: 'LOT', lot: 'T4', quantity: '1' };
    expect(
      await world.refused(build, {
        ...{ document: 'B-T4', place: 'LINE', at },
        groups: [{ outputs: [{ product: 'MADE', serial: 'T4-U', quantity: '1' }], inputs: [lot] }]
      } as never)
    ).toMatchObject([{ code: 'time.order', path: 'groups[0].inputs[0]' }]);
    for (const kind of ['loss', 'scrap'] as const)
      expect(
        await world.refused(correct, {
          ...{ document: 'C-T4', kind, reason: 'gone', at },
          lines: [{ ...lot, place: 'DOCK' }]
        })
      ).toMatchObject([{ code: 'time.order' }]);
  });
  it('is never met by what is booked as it happens, by many at once', async () => {
    const both = Array.from({ length: 12 }, async () => {
      const now = { document: `N-${++n}`, supplier: 'SUP' };
      await world.book(receive, {
        ...now,
        lines: [
          { product: 'LOT', place: 'DOCK', quantity: '1', marks: [{ lot: 'T5', quantity: '1' }] }
        ]
      });
      const { at: _, ...shipment } = left('T5', '1', '');
      await world.book(ship, shipment);
    });
    await Promise.all(both);
  });
});

describe('attacked with plain SQL, as the application', () => {
  const taken = (mark: number, at: string, remark = false) =>
    world.sql.begin(async (tx) => {
      const [event] = await tx<{ id: number }[]>`
        INSERT INTO event (kind, document, happened_at, booked_by, reason)
        VALUES ('scrap', 'X', ${at}, ${world.actor.personId}, 'attack')
        RETURNING id
      `;
      if (remark)
        await tx`
          INSERT INTO booking_remark (event_id, code, answer, number, message, reason)
          VALUES (${event!.id}, 'time.order', 'reason', 'A1', 'too early', 'known')
        `;
      await tx`
        INSERT INTO movement (event_id, mark_id, place_id, quantity)
        SELECT ${event!.id}, ${mark}, id, -1 FROM place WHERE code = 'DOCK'
      `;
    });
  it('is refused by the database, and goes on only where that is kept', async () => {
    const { marks } = await came('A1', '5', ago(10));
    const mark = marks[0]!.id;
    await expect(taken(mark, ago(20))).rejects.toMatchObject({ constraint_name: 'order_of_time' });
    await taken(mark, ago(5));
    await taken(mark, ago(20), true);
  });
});
