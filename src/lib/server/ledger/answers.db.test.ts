import { afterAll, beforeAll, expect, it } from 'vitest';
import { readMarkRecords } from './mark-record.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { book, type BookedAnswer } from './book.ts';
import { correct } from '../stock/kinds.ts';
import { move } from '../stock/kinds.ts';
import { quality } from '../quality/kinds.ts';
import { ship } from '../shipping/kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** What a booking answered is what the database says of its marks a moment later. */
async function told(answer: BookedAnswer): Promise<void> {
  expect(answer.marks.length).toBeGreaterThan(0);
  expect(answer.marks).toEqual(
    await readMarkRecords(
      world.sql,
      answer.marks.map((mark) => mark.id)
    )
  );
}

it('a booking answers with its marks as they are afterwards, read or worked out', async () => {
  await told(
    await world.receive('SIL', [
      { lot: 'CYL', serial: 'C1', supplierNumber: 'G-1', expires: '2031-05-31' },
      { lot: 'CYL', serial: 'C2' },
      { lot: 'CYL', serial: 'C3' }
    ])
  );
  await told(await world.receive('LOT', [{ lot: 'A', quantity: '10.5' }], '10.5'));
  await told(await world.receive('LOT', [{ lot: 'A', quantity: '2' }], '2', 'RACK'));
  await told(await world.receive('BULK', [], '40'));
  // A lot at two places, a part of it moved; a serial within its lot, stock by quantity.
  await told(
    await world.book(move, {
      document: 'M-1',
      kind: 'move',
      lines: [
        { product: 'LOT', lot: 'A', from: 'DOCK', to: 'RACK', quantity: '3.25' },
        { product: 'SIL', serial: 'C3', from: 'DOCK', to: 'LINE' }
      ]
    })
  );
  await told(
    await world.book(quality, {
      document: 'Q-1',
      kind: 'hold',
      reason: 'dented',
      marks: [{ product: 'SIL', serial: 'C2' }]
    })
  );
  await told(
    await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'U1', quantity: '1' }],
        inputs: [
          { product: 'SIL', serial: 'C1', quantity: '1' },
          { product: 'LOT', lot: 'A', quantity: '0.5' },
          { product: 'BULK', quantity: '2' }
        ]
      }
    ])
  );
  await told(
    await world.ship([
      { product: 'MADE', place: 'LINE', marks: [{ serial: 'U1' }] },
      { product: 'LOT', place: 'RACK', marks: [{ lot: 'A', quantity: '1.125' }] },
      { product: 'BULK', quantity: '5' } as never,
      { product: 'SIL', marks: [{ lot: 'CYL', serial: 'C3' }] } as never
    ])
  );
  await told(
    await world.book(correct, {
      document: 'K-1',
      kind: 'loss',
      reason: 'miscounted',
      lines: [{ product: 'LOT', lot: 'A', place: 'RACK', quantity: '0.125' }]
    })
  );
});

it('the second sending of a booking is answered to the letter as the first, also where both come at once', async () => {
  await world.receive(
    'SER',
    Array.from({ length: 6 }, (_, n) => ({ serial: `S${n}` }))
  );
  const request = {
      document: 'TWICE',
      customer: 'CUS',
      lines: [{ product: 'SER', marks: [{ serial: 'S0' }, { serial: 'S1' }] }]
    },
    key = newKey();
  const answers = await Promise.all(
    Array.from({ length: 5 }, () => book(world.sql, ship, world.actor, key, request))
  );
  expect(new Set(answers.map((one) => one.answer)).size).toBe(1);
  expect(answers.filter((one) => one.fresh)).toHaveLength(1);
  const { event } = JSON.parse(answers[0]!.answer) as BookedAnswer;
  const [row] = await world.sql<
    { id: number; at: Date }[]
  >`SELECT id, booked_at AS at FROM event WHERE document = 'TWICE'`;
  expect(event).toMatchObject({ id: row!.id, kind: 'ship', bookedAt: row!.at.toISOString() });
});

it('a refused booking leaves nothing behind: no event, no stock moved, its key free', async () => {
  const key = newKey(),
    events = async () =>
      (await world.sql<{ count: number }[]>`SELECT count(*)::int AS count FROM event`)[0]!.count;
  const before = await events();
  const request = (serial: string) => ({
    document: 'AGAIN',
    customer: 'CUS',
    lines: [{ product: 'SER', marks: [{ serial }] }]
  });
  await expect(book(world.sql, ship, world.actor, key, request('S0'))).rejects.toMatchObject({
    status: 422
  });
  expect(await events()).toBe(before);
  await told(
    JSON.parse(
      (await book(world.sql, ship, world.actor, key, request('S2'))).answer
    ) as BookedAnswer
  );
});
