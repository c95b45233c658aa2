import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Actor } from '../kernel/actor.ts';
import { hashPassword } from '../people/password.ts';
import { ship } from '../shipping/kinds.ts';
import { goodsReturn } from '../shipping/kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { noticePdf } from './papers/notice.ts';
import { caseFilePdf } from './papers/recall-file.ts';
import { caseFileXlsx } from './papers/recall-workbook.ts';
import { listRecalls } from './list-recalls.ts';
import { readNotice, sendNotices } from './notices.ts';
import { readRecall, type RecallPage } from './read-recall.ts';
import { findRoots, keepSet, readSet } from '../trace/trace-roots.ts';
import { traceMarks } from '../trace/trace.ts';
import { readRecalled } from '../ledger/read-recalled.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { amend } from '../stock/kinds.ts';
import { putPartner } from '../catalogue/partners-places.ts';
import {
  addSuspects,
  closeRecall,
  decideScope,
  goBeyondTime,
  openRecall,
  relateRecall,
  signRecall
} from './write-recall.ts';
import { recordAnswers } from './record-answers.ts';
import { holdScope } from './hold-scope.ts';

const each = (quantity: string) => [{ unit: 'each', quantity }];

let world: World, second: Actor, bad: number;
const NOW = () => new Date();
const idOf = async (number: string) =>
  (
    await world.sql<
      { id: number }[]
    >`SELECT id FROM mark WHERE number = ${number} ORDER BY id LIMIT 1`
  )[0]!.id;
const wrong = async (promised: Promise<unknown>) =>
  promised.then(
    () => {
      throw new Error('It was not refused.');
    },
    (error: Error) => {
      if (error instanceof Problem)
        return {
          status: error.status,
          ...error.errors[0]!,
          all: error.errors.map((one) => one.message)
        };
      throw error;
    }
  );
const page = async (number: string): Promise<RecallPage> =>
  (await readRecall(world.sql, number, NOW()))!;
const open = (more: object = {}) =>
  openRecall(world.sql, world.actor, newKey(), {
    title: 'Moist bobbins',
    hazard: 'They swell.',
    request: 'Send them back.',
    mock: false,
    marks: [bad],
    why: 'supplier’s warning',
    ...more
  });

beforeAll(async () => {
  world = await makeWorld();
  await world.sql`UPDATE person SET password_hash = ${await hashPassword('first of the two')} WHERE id = ${world.actor.personId}`;
  const [row] = await world.sql<
    { id: number }[]
  >`INSERT INTO person (login, name, roles, password_hash) VALUES ('second', 'Second Person', '{quality}', ${await hashPassword('second of the two')}) RETURNING id`;
  second = {
    personId: row!.id,
    login: 'second',
    name: 'Second Person',
    roles: ['quality'],
    via: 'session'
  };
  await putPartner(world.sql, 'CUS2', { name: 'Other Customer', supplier: false, customer: true });
  bad = (await world.receive('LOT', [{ lot: 'BAD', supplierNumber: 'THEIRS-1' }], '10')).marks[0]!
    .id;
  await world.build(
    ['U1', 'U2', 'U3', 'U4'].map((serial) => ({
      outputs: [{ product: 'MADE', serial, quantity: '1' }],
      inputs: [{ product: 'LOT', lot: 'BAD', quantity: '1' }]
    }))
  );
  await world.ship([
    { product: 'MADE', marks: [{ serial: 'U1' }, { serial: 'U2' }] },
    { product: 'LOT', marks: [{ lot: 'BAD', quantity: '2.5' }] }
  ]);
});
afterAll(() => world.end());

describe('a recall', () => {
  let number: string;
  it('finds everything made of its suspects, who has it and where the rest lies', async () => {
    const key = newKey();
    const given = {
      title: 'Moist bobbins',
      hazard: 'They swell.',
      request: 'Send them back.',
      mock: false,
      marks: [bad],
      why: 'supplier’s warning'
    };
    ({ number } = await openRecall(world.sql, world.actor, key, given));
    expect(await openRecall(world.sql, world.actor, key, given)).toEqual({ number });
    const found = await page(number);
    expect(found).toMatchObject({
      reached: 5,
      decidedAt: null,
      suspects: [{ number: 'BAD', why: 'supplier’s warning' }],
      customers: [
        {
          partner: 'CUS',
          rows: expect.arrayContaining([
            expect.objectContaining({ number: 'U1', quantity: '1' }),
            expect.objectContaining({ number: 'BAD', quantity: '2.5' })
          ])
        }
      ],
      standing: { had: each('4.5'), open: each('4.5') }
    });
    expect(found.here.map((one) => `${one.number} ${one.quantity}`).sort()).toEqual([
      'BAD 3.5',
      'U3 1',
      'U4 1'
    ]);
    expect(found.balances).toMatchObject([
      { in: '10', onHand: '3.5', used: '4', shipped: '2.5', open: '0' }
    ]);
  });
  it('writes to nobody and takes no answer before its scope is decided', async () => {
    expect(await wrong(sendNotices(world.sql, world.actor, number, null))).toMatchObject({
      status: 409,
      code: 'balance.open'
    });
    expect(
      await wrong(signRecall(world.sql, world.actor, number, 'first of the two'))
    ).toMatchObject({ status: 409 });
    expect(
      (
        await wrong(
          recordAnswers(world.sql, world.actor, number, newKey(), [
            { partner: 'CUS', mark: bad, outcome: 'returned', quantity: '1', note: '' }
          ])
        )
      ).message
    ).toContain('had nothing of that in the scope');
  });
  it('freezes its scope, and is compared with what left since', async () => {
    const named = [bad, await idOf('U1'), await idOf('U3')];
    expect(await readRecalled(world.sql, named)).toEqual(new Set([bad]));
    expect(await decideScope(world.sql, world.actor, number)).toEqual({ customers: 3, here: 3 });
    // What lies here was never with a customer; U1 is.
    expect(await readRecalled(world.sql, named)).toEqual(new Set(named.slice(0, 2)));
    await world.ship([{ product: 'MADE', marks: [{ serial: 'U3' }] }]);
    const since = await page(number);
    expect(since.standing.had).toEqual(each('4.5'));
    expect(since.change.shipments).toHaveLength(1);
    expect(since.changeRows).toMatchObject([{ partner: 'CUS', rows: [{ number: 'U3' }] }]);
    expect(since.hindrances.join()).toContain('1 shipment has left since the scope was decided');
    expect(await decideScope(world.sql, world.actor, number)).toMatchObject({ customers: 1 });
    expect(await page(number)).toMatchObject({
      change: { shipments: [] },
      standing: { had: each('5.5') },
      decidedAt: since.decidedAt
    });
    await expect(world.owner`UPDATE recall_scope_customer SET quantity = 1`).rejects.toThrow(
      'append-only'
    );
  });
  it('holds all that lies here in one booking, once', async () => {
    const key = newKey();
    const first = await holdScope(world.sql, world.actor, number, key);
    expect(first).toMatchObject({ held: 2, event: expect.any(Number), unnumbered: [] });
    // Sent again it answers the same; a new request finds nothing left.
    expect(await holdScope(world.sql, world.actor, number, key)).toEqual(first);
    expect(await holdScope(world.sql, world.actor, number, newKey())).toMatchObject({
      held: 0,
      event: null
    });
    expect(
      (await world.sql`SELECT number FROM mark WHERE state = 'held' ORDER BY number`).map(
        (row) => row.number
      )
    ).toEqual(['BAD', 'U4']);
  });
  it('writes a letter to every customer, kept as it was sent', async () => {
    expect(await sendNotices(world.sql, world.actor, number, null)).toEqual({ sent: 1 });
    const notice = (await page(number)).notices[0]!;
    const { content, sentAt } = (await readNotice(world.sql, number, notice.id))!;
    expect(content).toMatchObject({
      hazard: 'They swell.',
      name: 'Customer',
      mock: false,
      goods: expect.arrayContaining([expect.objectContaining({ number: 'U1' })])
    });
    expect(Buffer.from((await noticePdf(content, sentAt)).subarray(0, 5)).toString()).toBe('%PDF-');
    expect((await wrong(sendNotices(world.sql, world.actor, number, ['CUS2']))).message).toContain(
      'no such customer is in the scope'
    );
  });
  it('counts answers to 100 %, never beyond, once per key', async () => {
    const [u1, u2, u3] = [await idOf('U1'), await idOf('U2'), await idOf('U3')];
    const key = newKey();
    const answers = [
      { partner: 'CUS', mark: u1, outcome: 'returned' as const, quantity: '1', note: '' },
      { partner: 'cus', mark: bad, outcome: 'destroyed' as const, quantity: '2', note: '' }
    ];
    await recordAnswers(world.sql, world.actor, number, key, answers);
    expect(await recordAnswers(world.sql, world.actor, number, key, answers)).toEqual({ kept: 2 });
    expect(
      await wrong(recordAnswers(world.sql, world.actor, number, key, [answers[0]!]))
    ).toMatchObject({ status: 409 });
    expect((await page(number)).standing).toMatchObject({
      reported: each('1'),
      returned: [],
      destroyed: each('2'),
      open: each('2.5')
    });
    expect(
      (
        await wrong(
          recordAnswers(world.sql, world.actor, number, newKey(), [
            { partner: 'CUS', mark: bad, outcome: 'returned', quantity: '1', note: '' },
            { partner: 'CUS', mark: u2, outcome: 'written off', quantity: '1', note: ' ' }
          ])
        )
      ).all
    ).toEqual([
      expect.stringContaining('had 2.5 of BAD, and this would account for 3'),
      expect.stringContaining('needs a word on why')
    ]);
    // Past the application: the database itself takes no more than was in the scope.
    const [row] = await world.sql<
      { id: number }[]
    >`SELECT id FROM recall_case WHERE number = ${number}`;
    await expect(
      world.sql`INSERT INTO recall_answer (case_id, partner_id, mark_id, outcome, quantity, key, told_by) SELECT ${row!.id}, partner_id, mark_id, 'returned', 2, 'x', ${world.actor.personId} FROM recall_scope_customer WHERE mark_id = ${u2}`
    ).rejects.toMatchObject({ constraint_name: 'answers_within_scope' });
    await world.book(goodsReturn, {
      document: 'RT-R',
      place: 'DOCK',
      lines: [{ product: 'MADE', serial: 'U1' }]
    });
    await recordAnswers(world.sql, world.actor, number, newKey(), [
      { partner: 'CUS', mark: u2, outcome: 'written off', quantity: '1', note: 'lost at sea' },
      { partner: 'CUS', mark: u3, outcome: 'returned', quantity: '1', note: '' },
      { partner: 'CUS', mark: bad, outcome: 'returned', quantity: '0.5', note: '' }
    ]);
    // What was said to be returned is not accounted for until it is booked in.
    expect(await page(number)).toMatchObject({
      standing: { open: [], returned: each('1'), reported: each('1.5') },
      hindrances: expect.arrayContaining([expect.stringContaining('1.5 each of 1 of 1 customers')])
    });
    await world.book(goodsReturn, {
      document: 'RT-R2',
      place: 'DOCK',
      lines: [
        { product: 'MADE', serial: 'U3' },
        { product: 'LOT', lot: 'BAD', quantity: '0.5' }
      ]
    });
    expect((await page(number)).standing).toMatchObject({ open: [], reported: [], part: 1 });
  });
  it('is signed by two people with their passwords, not by one twice, a wrong password or a token', async () => {
    expect(await wrong(signRecall(world.sql, world.actor, number, 'nonsense'))).toMatchObject({
      status: 403,
      path: 'password'
    });
    expect(
      await wrong(
        signRecall(world.sql, { ...world.actor, via: 'token' }, number, 'first of the two')
      )
    ).toMatchObject({ status: 403 });
    expect(await signRecall(world.sql, world.actor, number, 'first of the two')).toEqual({
      signatures: 1
    });
    expect(
      await wrong(signRecall(world.sql, world.actor, number, 'first of the two'))
    ).toMatchObject({ status: 409 });
    expect(
      (await wrong(closeRecall(world.sql, world.actor, number, 'in a hurry', NOW()))).all.join()
    ).toContain('One of two signatures is missing');
    expect(await signRecall(world.sql, second, number, 'second of the two')).toEqual({
      signatures: 2
    });
  });
  it('closes once it reconciles, and is then changed no more', async () => {
    const closed = await closeRecall(world.sql, world.actor, number, null, NOW());
    expect(closed).toMatchObject({ closingReason: null, closedBy: 'Test Person', hindrances: [] });
    expect(await wrong(addSuspects(world.sql, world.actor, number, [bad], ''))).toMatchObject({
      status: 409,
      code: 'order.closed'
    });
    expect(Buffer.from((await caseFilePdf(closed)).subarray(0, 5)).toString()).toBe('%PDF-');
    expect(Buffer.from((await caseFileXlsx(closed)).subarray(0, 2)).toString()).toBe('PK');
    expect(closed.log.map((one) => one.says.split(/[ :.]/)[0])).toEqual(
      expect.arrayContaining(['Case', 'Scope', '2', '1', 'Signed', 'Closed'])
    );
  });
  it('does not close while goods are moving, unless with a reason', async () => {
    const other = (await open()).number;
    await relateRecall(world.sql, world.actor, other, number);
    await decideScope(world.sql, world.actor, other);
    await signRecall(world.sql, world.actor, other, 'first of the two');
    await signRecall(world.sql, second, other, 'second of the two');
    expect((await wrong(closeRecall(world.sql, world.actor, other, null, NOW()))).all).toEqual([
      expect.stringContaining('are not accounted for')
    ]);
    expect(
      await closeRecall(world.sql, world.actor, other, 'joined with the other case', NOW())
    ).toMatchObject({ closingReason: 'joined with the other case', related: [{ number }] });
    expect((await listRecalls(world.sql)).rows.map((one) => one.state)).toEqual([
      'closed',
      'closed'
    ]);
  });
  it('as a drill holds nothing, stops the watch with the decision, and is scored', async () => {
    const { number: drill } = await open({ mock: true, targetMinutes: 5 });
    expect(await page(drill)).toMatchObject({ drill: { target: 5, found: '100', passed: null } });
    const before = await world.sql`SELECT count(*)::int AS n FROM event`;
    expect(await holdScope(world.sql, world.actor, drill, newKey())).toMatchObject({ event: null });
    await decideScope(world.sql, world.actor, drill);
    expect(await world.sql`SELECT count(*)::int AS n FROM event`).toEqual(before);
    // Opening a scope passes nothing: its customers have to answer for all they had.
    const decided = await page(drill);
    expect(decided.drill).toMatchObject({ inTime: true, answered: '0', passed: null });
    const had = new Map<number, number>();
    for (const row of decided.customers[0]!.rows)
      had.set(row.mark, (had.get(row.mark) ?? 0) + Number(row.quantity));
    await recordAnswers(
      ...([world.sql, world.actor, drill, newKey()] as const),
      [...had].map(([mark, quantity]) => ({
        ...{ partner: 'CUS', mark, outcome: 'returned' as const, note: '' },
        quantity: String(quantity)
      }))
    );
    expect((await page(drill)).drill).toMatchObject({ answered: '100', passed: true });
  });
  it('is not for everybody', async () => {
    expect(
      await wrong(
        openRecall(world.sql, { ...world.actor, roles: ['receiver'] }, newKey(), {
          title: 'x',
          hazard: 'x',
          request: '',
          mock: false,
          marks: [bad],
          why: ''
        })
      )
    ).toMatchObject({ status: 403 });
    expect(await wrong(open({ marks: [] }))).toMatchObject({ status: 422 });
    expect(await wrong(open({ marks: [999_999] }))).toMatchObject({
      status: 422,
      code: 'mark.unknown'
    });
  });
});

describe('a starting point', () => {
  const find = (start: Parameters<typeof findRoots>[1]) => findRoots(world.sql, start);
  it('is a number of ours, a supplier’s, or one of before an amendment; what it never was is told', async () => {
    await world.book(amend, {
      document: 'AM',
      reason: 'misread',
      lines: [{ product: 'MADE', serial: 'U4', to: { number: 'U4-NEW' } }]
    });
    const found = await find({ by: 'numbers', numbers: ['bad', 'U4', 'GHOST', ' U1 ', 'BAD'] });
    expect(found).toMatchObject({
      count: 3,
      unknown: ['GHOST'],
      open: [],
      amended: [{ number: 'U4', now: 'U4-NEW', product: 'MADE' }]
    });
    expect((await find({ by: 'numbers', numbers: ['theirs-1'] })).ids).toEqual([bad]);
  });
  it('that exists for several products is asked back', async () => {
    await world.receive('SER', [{ serial: 'SAME' }]);
    await world.receive('SIL', [{ lot: 'X1', serial: 'SAME' }]);
    await world.receive('LOT', [{ lot: 'SAME' }], '1');
    const found = await find({ by: 'numbers', numbers: ['SAME'] });
    expect(found).toMatchObject({
      count: 0,
      open: [
        { number: 'SAME', choices: [{ product: 'LOT' }, { product: 'SER' }, { product: 'SIL' }] }
      ]
    });
    expect((await find({ by: 'numbers', numbers: ['SAME'], product: 'ser' })).count).toBe(1);
  });
  it('is a document, a partner, a place, a product with a range, each with its time', async () => {
    // The days they were shipped on, which are two where midnight was between.
    const [shipped] = await world.sql<
      [{ from: Date; to: Date }]
    >`SELECT min(happened_at) AS from, max(happened_at) AS to FROM event WHERE kind = 'ship'`;
    const [from, to] = [shipped.from, shipped.to].map((at) => at.toISOString().slice(0, 10));
    const [build] = await world.sql<
      { document: string }[]
    >`SELECT document FROM event WHERE kind = 'build' LIMIT 1`;
    expect(
      (await find({ by: 'document', document: build!.document.toLowerCase() })).marks.map(
        (mark) => mark.number
      )
    ).toEqual(['U1', 'U2', 'U3', 'U4-NEW']);
    expect((await find({ by: 'partner', partner: 'CUS', from, to })).count).toBe(4);
    expect((await find({ by: 'place', place: 'LINE' })).count).toBe(4);
    expect(
      (await find({ by: 'product', product: 'MADE', first: 'U2', last: 'U3' })).marks.map(
        (mark) => mark.number
      )
    ).toEqual(['U2', 'U3']);
    for (const start of [
      { by: 'document', document: 'NIX' },
      { by: 'partner', partner: 'NIX' },
      { by: 'partner', partner: 'CUS2' },
      { by: 'place', place: 'LINE', from: '2031-01-01' },
      { by: 'product', product: 'MADE', first: 'ZZZ' }
    ] as const)
      expect(await wrong(find(start))).toMatchObject({ status: 404 });
    expect(
      await wrong(
        find({ by: 'numbers', numbers: Array.from({ length: 100_001 }, (_, n) => `N${n}`) })
      )
    ).toMatchObject({ status: 422 });
  });
  it('of many is kept as a set and traced together: levels are the shortest, every root balances', async () => {
    const { ids, title } = await find({ by: 'numbers', numbers: ['BAD', 'U1'] });
    const set = await keepSet(world.sql, world.actor, title, ids);
    expect(await readSet(world.sql, set)).toEqual({ title: 'BAD and 1 more', marks: ids });
    const trace = (await traceMarks(world.sql, ids, 'downstream'))!;
    expect(trace.balances.map((one) => [one.mark, one.open])).toEqual(ids.map((id) => [id, '0']));
    expect(trace.marks.find((mark) => mark.number === 'U1')!.level).toBe(0);
    expect(trace.marks.find((mark) => mark.number === 'U2')!.level).toBe(1);
  });
  it('is cut at a date, by product and by kind of event', async () => {
    const past = new Date(Date.now() - 3_600_000);
    const [first] = await world.sql<
      { at: Date }[]
    >`SELECT happened_at AS at FROM event e JOIN movement v ON v.event_id = e.id WHERE v.mark_id = ${bad} ORDER BY e.id LIMIT 1`;
    expect((await traceMarks(world.sql, [bad], 'downstream', { until: first!.at }))!).toMatchObject(
      {
        balance: { in: '10', onHand: '10', shipped: '0', open: '0' },
        marks: [{ number: 'BAD', state: 'usable', onHand: '10' }]
      }
    );
    expect((await traceMarks(world.sql, [bad], 'downstream', { until: past }))!.balance.in).toBe(
      '0'
    );
    expect(
      (await traceMarks(world.sql, [bad], 'downstream', { withoutProducts: ['made'] }))!.marks
    ).toHaveLength(1);
    expect(
      (await traceMarks(world.sql, [bad], 'downstream', { withoutKinds: ['build'] }))!.marks
    ).toHaveLength(1);
    expect(
      (await traceMarks(world.sql, [await idOf('U1')], 'upstream', { withoutProducts: ['LOT'] }))!
        .marks
    ).toHaveLength(1);
  });
});

describe('answers of two customers', () => {
  it('for one lot are kept from one message, each for its own customer', async () => {
    const lot = (await world.receive('LOT', [{ lot: 'SHARED' }], '5')).marks[0]!.id;
    for (const customer of ['CUS', 'CUS2'])
      await world.book(ship, {
        document: `SO-${customer}`,
        customer,
        lines: [{ product: 'LOT', marks: [{ lot: 'SHARED', quantity: '2' }] }]
      });
    const { number } = await open({ marks: [lot] });
    await decideScope(world.sql, world.actor, number);
    const answer = (partner: string, quantity: string) => ({
      partner,
      mark: lot,
      outcome: 'returned' as const,
      quantity,
      note: ''
    });
    const both = [answer('CUS', '2'), answer('CUS2', '1')];
    expect(await recordAnswers(world.sql, world.actor, number, newKey(), both)).toEqual({
      kept: 2
    });
    expect((await page(number)).standing).toMatchObject({ reported: each('3'), open: each('1') });
    const nothing = [answer('CUS2', '1'), answer('CUS2', '-1')];
    expect(
      await wrong(recordAnswers(world.sql, world.actor, number, newKey(), nothing))
    ).toMatchObject({ status: 422, path: 'answers[1]' });
    const tooLittle = [answer('CUS2', '-2')];
    expect(
      await wrong(recordAnswers(world.sql, world.actor, number, newKey(), tooLittle))
    ).toMatchObject({ status: 422, path: 'answers[0]' });
  });
});

describe('what time cleared', () => {
  const mixOf = (drum: string) =>
    world.build([
      {
        outputs: [{ product: 'MADELOT', lot: 'T-MIX', quantity: '5' }],
        inputs: [{ product: 'KG', lot: drum, quantity: '5' }]
      }
    ]);
  const unitOf = (serial: string) =>
    world.build([
      {
        outputs: [{ product: 'MADE', serial, quantity: '1' }],
        inputs: [{ product: 'MADELOT', lot: 'T-MIX', quantity: '1' }]
      }
    ]);
  it('is no part of a scope, is counted, and is taken in by one tick that is logged', async () => {
    await world.receive(
      'KG',
      [
        { lot: 'T-A', quantity: '5' },
        { lot: 'T-B', quantity: '5' }
      ],
      '10'
    );
    await mixOf('T-A');
    await unitOf('T-1');
    await world.ship([{ product: 'MADE', marks: [{ serial: 'T-1' }] }]);
    await mixOf('T-B');
    await unitOf('T-2');
    const { number } = await open({ marks: [await idOf('T-B')] });
    expect(await page(number)).toMatchObject({
      customers: [],
      reached: 3,
      beyondTime: false,
      cleared: { marks: 1, customers: 1 }
    });
    await goBeyondTime(world.sql, world.actor, number, true);
    const wide = await page(number);
    expect(wide).toMatchObject({
      reached: 4,
      beyondTime: true,
      cleared: { marks: 0, customers: 0 }
    });
    expect(wide.customers).toMatchObject([{ partner: 'CUS', rows: [{ number: 'T-1' }] }]);
    expect(wide.log.map((one) => one.says).join()).toContain('Widened beyond time');
    expect(await decideScope(world.sql, world.actor, number)).toMatchObject({ customers: 1 });
    expect(await wrong(goBeyondTime(world.sql, world.actor, number, false))).toMatchObject({
      status: 409,
      path: 'beyond'
    });
    expect((await page(number)).change.shipments).toEqual([]);
  });
});
