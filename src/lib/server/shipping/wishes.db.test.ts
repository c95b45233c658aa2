import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainPlan } from '../../core/catalogue/plan.ts';
import type { Answer } from '../../core/faults/situations.ts';
import { putPlan } from '../catalogue/plans.ts';
import { putProduct } from '../catalogue/products.ts';
import { putWishes } from '../catalogue/wishes.ts';
import type { Actor } from '../kernel/actor.ts';
import { book } from '../ledger/book.ts';
import { readEventPage } from '../ledger/event-page.ts';
import { putOrder } from '../orders/write-order.ts';
import { approve, type ApprovalGiven } from '../people/approvals.ts';
import { putPerson } from '../people/write-people.ts';
import { caught } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { pack, ship } from './kinds.ts';
import { makePickList } from './make-pick-list.ts';
import { promise } from './promises.ts';

const TODAY = new Date().toISOString().slice(0, 10);
const later = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const PASSWORD = 'a long enough password';
const NOW = { until: null, day: TODAY };

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  for (const [login, roles] of [
    ['quinn', ['quality']],
    ['sam', ['shipper']]
  ] as const)
    await putPerson(world.sql, null, login, {
      ...{ name: login, roles: [...roles], active: true, password: PASSWORD }
    });
  await planAnswers('stop');
  await putProduct(world.sql, 'LOT', {
    ...{ name: 'lot', unit: 'each', decimals: 3, made: false, marking: 'lot', plan: 'WISH' }
  } as never);
  await putWishes(world.sql, 'CUS', [
    {
      ...{ product: 'LOT', leastDays: 60, leastShare: null },
      ...{ oneLot: true, oneDate: false, tested: false }
    }
  ]);
  for (const [lot, days] of [
    ['SHORT', 20],
    ['LONG', 400],
    ['OTHER', 500]
  ] as const)
    await world.receive('LOT', [{ lot, expires: later(days) }], '10');
});
afterAll(() => world.end());

const order = (number: string, quantity = '5') =>
  putOrder(world.sql, world.actor, 'sales', number, {
    ...{ partner: 'CUS', due: later(5), note: '' },
    lines: [{ product: 'LOT', quantity }]
  } as never);
/** How the plan of the product answers what the customer does not wish. */
const planAnswers = async (answer: Answer) => {
  const plan = plainPlan('lot');
  await putPlan(world.sql, world.actor, 'WISH', {
    ...plan,
    name: 'by lot',
    answers: { ...plan.answers, 'life too short': answer, 'lots mixed': answer }
  });
};
const shipment = (document: string, lots: string[], more: object = {}) => ({
  ...{ document, customer: 'CUS' },
  lines: [{ product: 'LOT', marks: lots.map((lot) => ({ lot, quantity: '1' })) }],
  ...more
});
const fault = (number: string) => ({ code: 'wish.unmet', number, message: 'It runs too short.' });
const approved = (document: string, number: string, login = 'quinn'): Promise<ApprovalGiven> =>
  approve(world.sql, world.actor, {
    ...{ login, password: PASSWORD, document, reason: 'Customer rang' },
    faults: [fault(number)]
  });

describe('a wish that is not met', () => {
  it('stops a promise, a pick list, a carton and a shipment where the plan says stop', async () => {
    await planAnswers('stop');
    await order('SO-STOP');
    const given = [{ line: 1, lot: 'SHORT', quantity: '1' }];
    const how = { ...NOW, reasons: { 'wish.unmet': 'please' } };
    const wrong = { code: 'wish.unmet', number: 'SHORT' };
    const { sql, actor } = world;
    expect(await caught(promise(sql, actor, 'SO-STOP', given, how))).toMatchObject([wrong]);
    expect(await caught(makePickList(sql, actor, 'SO-STOP', given, how))).toMatchObject([wrong]);
    expect(await world.refused(ship, shipment('SO-STOP', ['SHORT'], how))).toMatchObject([wrong]);
    const packing = {
      ...{ document: 'SO-STOP', kind: 'pack' as const, units: [], reasons: how.reasons },
      lines: [{ product: 'LOT', lot: 'SHORT', quantity: '1' }]
    };
    expect(await world.refused(pack, packing)).toMatchObject([wrong]);
  });

  it('goes on with a reason, which the order keeps for what is booked later', async () => {
    await planAnswers('reason');
    await order('SO-WHY');
    const given = [{ line: 1, lot: 'SHORT', quantity: '1' }];
    const { sql, actor } = world;
    expect(await caught(promise(sql, actor, 'SO-WHY', given, NOW))).toMatchObject([
      { code: 'wish.unmet', answer: 'reason' }
    ]);
    await promise(sql, actor, 'SO-WHY', given, {
      ...NOW,
      reasons: { 'wish.unmet': 'agreed by telephone' }
    });
    const { event } = await world.book(ship, shipment('SO-WHY', ['SHORT']));
    expect((await readEventPage(sql, event.id))!.remarks).toMatchObject([
      { number: 'SHORT', reason: 'agreed by telephone', approvedBy: null }
    ]);
    // Another order has not been asked.
    expect(await world.refused(ship, shipment('SO-NEXT', ['SHORT']))).toMatchObject([
      { code: 'wish.unmet' }
    ]);
  });

  it('is only shown where the plan says note', async () => {
    await planAnswers('note');
    await order('SO-NOTE');
    const answer = await promise(
      ...([world.sql, world.actor, 'SO-NOTE'] as const),
      [
        { line: 1, lot: 'LONG', quantity: '1' },
        { line: 1, lot: 'OTHER', quantity: '1' }
      ],
      NOW
    );
    expect(answer.notes).toMatchObject([
      { number: 'LOT', message: expect.stringContaining('one lot of LOT, and this would be 2') }
    ]);
    await promise(world.sql, world.actor, 'SO-NOTE', [], NOW);
  });
});

describe('a second person', () => {
  beforeAll(() => planAnswers('second person'));

  it('lets one fault of one document pass, once, and stands on the event', async () => {
    const request = shipment('S-2ND', ['SHORT']);
    expect(await world.refused(ship, request)).toMatchObject([
      { number: 'SHORT', answer: 'second person' }
    ]);
    const { approval, by } = await approved('S-2ND', 'SHORT');
    expect(by).toBe('quinn');
    const approvals = [approval];
    // A written reason does not stand for them, nor their word for another document or number.
    const reasons = { 'wish.unmet': 'I say so' };
    for (const other of [
      shipment('S-2ND', ['SHORT'], { reasons }),
      shipment('S-OTHER', ['SHORT'], { approvals }),
      shipment('S-2ND', ['LONG', 'OTHER'], { approvals })
    ])
      expect(await world.refused(ship, other)).toMatchObject([{ answer: 'second person' }]);
    const { event } = await world.book(ship, { ...request, approvals });
    expect((await readEventPage(world.sql, event.id))!.remarks).toMatchObject([
      { number: 'SHORT', reason: 'Customer rang', approvedBy: 'quinn' }
    ]);
    expect(await world.refused(ship, { ...request, approvals })).toMatchObject([
      { answer: 'second person' }
    ]);
  });

  it('is used by one of two bookings that race with the same word', async () => {
    const { approval } = await approved('S-RACE', 'SHORT');
    const request = shipment('S-RACE', ['SHORT'], { approvals: [approval] });
    const outcomes = await Promise.allSettled(
      [1, 2, 3, 4].map(() => book(world.sql, ship, world.actor, newKey(), request))
    );
    expect(outcomes.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
  });

  it('is believed only to the one who asked', async () => {
    const { approval } = await approved('S-MINE', 'SHORT');
    const other: Actor = { ...world.actor, personId: await idOf('sam'), login: 'sam' };
    const request = shipment('S-MINE', ['SHORT'], { approvals: [approval] });
    await expect(book(world.sql, ship, other, newKey(), request)).rejects.toMatchObject({
      errors: [{ answer: 'second person' }]
    });
  });

  it('is refused with the wrong password, without the right, and for oneself', async () => {
    const ask = (login: string, password = PASSWORD, asker = world.actor) =>
      caught(
        approve(world.sql, asker, {
          ...{ login, password, document: 'S-X', reason: 'because' },
          faults: [fault('SHORT')]
        })
      );
    expect(await ask('quinn', 'wrong password')).toMatchObject([{ path: 'password' }]);
    expect(await ask('nobody')).toMatchObject([{ path: 'password' }]);
    expect((await ask('sam'))[0]!.message).toContain('sam may not approve. quality or coordinator');
    const quinn: Actor = { ...world.actor, personId: await idOf('quinn'), login: 'quinn' };
    expect((await ask('quinn', PASSWORD, quinn))[0]!.message).toContain('Another person must');
  });

  it('counts wrong passwords as a sign-in does', async () => {
    const tries = await Promise.all(
      Array.from({ length: 8 }, () =>
        caught(
          approve(world.sql, world.actor, {
            ...{ login: 'SAM', password: 'guess', document: 'S-X', reason: 'because' },
            faults: [fault('SHORT')]
          })
        )
      )
    );
    expect(tries.flat().filter((one) => one.message.includes('Try again in'))).toHaveLength(2);
  });

  it('cannot be written by hand for oneself, nor a remark without one, nor changed', async () => {
    const id = world.actor.personId;
    await expect(
      world.sql`
        INSERT INTO approval (secret_hash, approved_by, asked_by, document, faults, reason)
        VALUES (${Buffer.from('x')}, ${id}, ${id}, 'S-1', '[{"code":"mark.held"}]', 'because')
      `
    ).rejects.toMatchObject({ constraint_name: 'approved_by_another' });
    await expect(
      world.sql`
        INSERT INTO booking_remark (event_id, code, answer, number, message, reason)
        SELECT max(id), 'mark.held', 'second person', 'L1', 'held', 'because'
        FROM event
      `
    ).rejects.toMatchObject({ constraint_name: 'approved_where_due' });
    await expect(world.sql`UPDATE approval SET reason = 'x'`).rejects.toThrow('permission denied');
  });
});

const idOf = async (login: string): Promise<number> =>
  (await world.sql<[{ id: number }]>`SELECT id FROM person WHERE login = ${login}`)[0].id;
