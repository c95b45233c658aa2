import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_SPEC, type Limit } from '../../core/quality/spec.ts';
import { putOrder } from '../orders/write-order.ts';
import { promise } from './promises.ts';
import { putSpec } from '../catalogue/specs.ts';
import { putWishes } from '../catalogue/wishes.ts';
import { issueCertificate, readCertificate } from '../quality/issue-certificate.ts';
import { certificatePdf } from '../quality/papers/certificate.ts';
import { readProposal } from './proposal.ts';
import { readUnsigned } from '../quality/read-quality.ts';
import type { Actor } from '../kernel/actor.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { build } from '../making/kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { quality } from '../quality/kinds.ts';
import { ship } from './kinds.ts';
import { recordTest, signTest } from '../quality/test-mark.ts';

let world: World, second: Actor;
const TODAY = new Date().toISOString().slice(0, 10);
const NOW = () => new Date();
const limit = (name: string, more: Partial<Limit>): Limit => ({
  name,
  kind: 'number',
  unit: 'N',
  least: null,
  most: null,
  good: [],
  choices: [],
  required: true,
  ...more
});
const order = (number: string, lines: object[]) =>
  putOrder(world.sql, world.actor, 'sales', number, {
    partner: 'CUS',
    due: '2026-12-01',
    note: '',
    lines
  } as never);
const refusal = async (run: Promise<unknown>): Promise<{ code: string; message: string }[]> => {
  try {
    await run;
  } catch (error) {
    if (error instanceof Problem)
      return error.errors.length > 0
        ? ([...error.errors] as { code: string; message: string }[])
        : [{ code: String(error.status), message: error.title }];
    throw error;
  }
  throw new Error('It was taken.');
};
const test = (lot: string, value: string, more: object = {}) =>
  recordTest(
    world.sql,
    world.actor,
    newKey(),
    {
      product: 'LOT',
      lot,
      instrument: 'cell 1',
      sample: '',
      note: '',
      results: [{ name: 'strength', value, unit: 'N' }],
      ...more
    },
    NOW()
  );

beforeAll(async () => {
  world = await makeWorld();
  const [person] = await world.sql<
    { id: number }[]
  >`INSERT INTO person (login, name, roles) VALUES ('second', 'Second Person', '{quality}') RETURNING id`;
  second = {
    personId: person!.id,
    login: 'second',
    name: 'Second Person',
    roles: ['quality'],
    via: 'session'
  };
  for (const [lot, expires] of [
    ['C1', '2027-06-01'],
    ['C2', '2027-02-01'],
    ['C3', '2028-01-01']
  ] as const)
    await world.receive('LOT', [{ lot, expires }], '10');
  await world.receive(
    'SER',
    ['P1', 'P2', 'P3'].map((serial) => ({ serial }))
  );
});
afterAll(() => world.end());

describe('promises', () => {
  beforeAll(async () => {
    await order('SO-A', [
      { product: 'LOT', quantity: '8' },
      { product: 'SER', quantity: '2' }
    ]);
    await order('SO-B', [{ product: 'LOT', quantity: '15' }]);
  });
  it('are seen wherever one chooses, and are left out of other orders’ proposals', async () => {
    await promise(
      world.sql,
      world.actor,
      'SO-A',
      [
        { line: 1, lot: 'c2', quantity: '8' },
        { line: 2, serial: 'P1' }
      ],
      { until: null, day: TODAY }
    );
    const proposal = await readProposal(world.sql, 'SO-B', 'first expired', {}, TODAY);
    expect(proposal.lines[0]!.picks.map((pick) => `${pick.number} ${pick.quantity}`)).toEqual([
      'C2 2',
      'C1 10',
      'C3 3'
    ]);
    expect(proposal.choices.find((choice) => choice.number === 'C2')!.promises).toMatchObject([
      { order: 'SO-A', partner: 'Customer', quantity: '8', who: 'Test Person' }
    ]);
    expect(
      (await readProposal(world.sql, 'SO-A', 'first expired', {}, TODAY)).lines[0]!.picks
    ).toMatchObject([{ number: 'C2', quantity: '8' }]);
  });
  it('follow their product when the order is entered again with its lines in another order', async () => {
    await order('SO-AGAIN', [
      { product: 'LOT', quantity: '1' },
      { product: 'SER', quantity: '1' }
    ]);
    const named = [
      { line: 1, lot: 'c1', quantity: '1' },
      { line: 2, serial: 'P2' }
    ];
    await promise(world.sql, world.actor, 'SO-AGAIN', named, { until: null, day: TODAY });
    await order('SO-AGAIN', [
      { product: 'SER', quantity: '1' },
      { product: 'LOT', quantity: '1' }
    ]);
    const lines = () => world.sql`
      SELECT r.line, m.number
      FROM reservation r
        JOIN mark m ON m.id = r.mark_id
        JOIN trade_order o ON o.id = r.order_id
      WHERE o.number = 'SO-AGAIN'
      ORDER BY r.line
    `;
    expect(await lines()).toMatchObject([
      { line: 1, number: 'P2' },
      { line: 2, number: 'C1' }
    ]);
    await order('SO-AGAIN', [{ product: 'LOT', quantity: '1' }]);
    expect(await lines()).toMatchObject([{ line: 1, number: 'C1' }]);
    await promise(world.sql, world.actor, 'SO-AGAIN', [], { until: null, day: TODAY });
  });
  it('are never more than there is: not in one order, not in two, not for twenty who ask at once', async () => {
    expect(
      await refusal(
        promise(world.sql, world.actor, 'SO-B', [{ line: 1, lot: 'C2', quantity: '3' }], {
          until: null,
          day: TODAY
        })
      )
    ).toMatchObject([
      {
        code: 'mark.reserved',
        message: expect.stringContaining('8 of it promised to SO-A for Customer')
      }
    ]);
    expect(
      await refusal(
        promise(world.sql, world.actor, 'SO-B', [{ line: 1, lot: 'C1', quantity: '11' }], {
          until: null,
          day: TODAY
        })
      )
    ).toMatchObject([{ code: 'stock.short' }]);
    for (let n = 0; n < 20; n++) await order(`SO-R${n}`, [{ product: 'LOT', quantity: '4' }]);
    const tries = await Promise.allSettled(
      Array.from({ length: 20 }, (_, n) =>
        promise(world.sql, world.actor, `SO-R${n}`, [{ line: 1, lot: 'C3', quantity: '4' }], {
          until: null,
          day: TODAY
        })
      )
    );
    expect(tries.filter((one) => one.status === 'fulfilled')).toHaveLength(2);
    for (let n = 0; n < 20; n++)
      await promise(world.sql, world.actor, `SO-R${n}`, [], { until: null, day: TODAY });
  });
  it('stop a shipment and a build that would leave too little, unless a written reason is kept', async () => {
    const request = {
      document: 'SO-B',
      customer: 'CUS',
      lines: [{ product: 'LOT', marks: [{ lot: 'C2', quantity: '3' }] }]
    };
    expect(await world.refused(ship, request)).toMatchObject([
      {
        code: 'mark.reserved',
        answer: 'reason',
        message: expect.stringContaining(
          '8 each are promised to SO-A for Customer, and 7 would be left'
        )
      }
    ]);
    expect(
      (
        await world.refused(build, {
          document: 'B-X',
          place: 'LINE',
          groups: [
            {
              outputs: [{ product: 'MADE', serial: 'PX', quantity: '1' }],
              inputs: [{ product: 'SER', serial: 'P1', quantity: '1' }]
            }
          ]
        })
      )[0]
    ).toMatchObject({
      code: 'mark.reserved',
      message: expect.stringContaining('promised to SO-A')
    });
    const booked = await world.book(ship, {
      ...request,
      reasons: { 'mark.reserved': 'customer agreed by telephone' }
    });
    expect(
      await world.sql`SELECT code, reason FROM booking_remark WHERE event_id = ${booked.event.id}`
    ).toMatchObject([{ code: 'mark.reserved', reason: 'customer agreed by telephone' }]);
  });
  it('are kept by the shipment of their own order', async () => {
    await world.book(ship, {
      document: 'SO-A',
      customer: 'CUS',
      lines: [
        { product: 'LOT', marks: [{ lot: 'C2', quantity: '5' }] },
        { product: 'SER', marks: [{ serial: 'P1' }] }
      ]
    });
    expect(
      await world.sql`SELECT quantity::float8 AS q FROM reservation r JOIN trade_order o ON o.id = r.order_id WHERE o.number = 'SO-A'`
    ).toMatchObject([{ q: 3 }]);
    await promise(world.sql, world.actor, 'SO-A', [], { until: null, day: TODAY });
  });
  it('end with their day, and are refused for what is held, unknown or of another line', async () => {
    await promise(world.sql, world.actor, 'SO-A', [{ line: 1, lot: 'C1', quantity: '10' }], {
      until: '2020-01-01',
      day: TODAY
    });
    expect(
      (await readProposal(world.sql, 'SO-B', 'first in', {}, TODAY)).choices.find(
        (choice) => choice.number === 'C1'
      )
    ).toMatchObject({ why: 'taken', promises: [] });
    await world.book(quality, {
      document: 'H',
      kind: 'hold',
      reason: 'look',
      marks: [{ product: 'LOT', lot: 'C3' }]
    });
    expect(
      (
        await refusal(
          promise(
            world.sql,
            world.actor,
            'SO-A',
            [
              { line: 1, lot: 'C3', quantity: '1' },
              { line: 1, lot: 'NOPE', quantity: '1' },
              { line: 9, lot: 'C1' },
              { line: 1, lot: 'C1', quantity: '-1' }
            ],
            { until: null, day: TODAY }
          )
        )
      ).map((one) => one.code)
    ).toEqual(['mark.held', 'mark.unknown', 'mark.unknown', 'quantity.mismatch']);
    await world.book(quality, {
      document: 'H',
      kind: 'release',
      reason: 'fine',
      marks: [{ product: 'LOT', lot: 'C3' }]
    });
  });
});

describe('specs and tests', () => {
  beforeAll(async () => {
    await putSpec(world.sql, world.actor, 'LOT', null, {
      ...NO_SPEC,
      limits: [limit('strength', { least: '100' })],
      holdOnFail: true,
      retestDays: 30
    });
    await putSpec(world.sql, world.actor, 'LOT', 'CUS', {
      ...NO_SPEC,
      limits: [limit('strength', { least: '120' })]
    });
    await order('SO-T', [{ product: 'LOT', quantity: '2' }]);
  });
  it('count once a second person has signed, never the one who tested, and only once', async () => {
    const { id, retest } = await test('C1', '130');
    expect(retest).not.toBeNull();
    expect(
      (await readProposal(world.sql, 'SO-T', 'first expired', {}, TODAY)).choices.find(
        (choice) => choice.number === 'C1'
      )!.verdict
    ).toBe('untested');
    expect(
      (await readUnsigned(world.sql, world.actor.personId)).rows.map((one) => [one.number, one.own])
    ).toEqual([['C1', true]]);
    expect((await refusal(signTest(world.sql, world.actor, id)))[0]!.message).toContain(
      'somebody else signs it off'
    );
    await expect(
      world.sql`INSERT INTO test_signature (test_id, signed_by) VALUES (${id}, ${world.actor.personId})`
    ).rejects.toMatchObject({ constraint_name: 'signed_by_another' });
    await signTest(world.sql, second, id);
    expect(await refusal(signTest(world.sql, second, id))).toMatchObject([{ code: 'key.used' }]);
    expect(
      (await readProposal(world.sql, 'SO-T', 'first expired', {}, TODAY)).choices.find(
        (choice) => choice.number === 'C1'
      )!.verdict
    ).toBe('conforms');
    expect(
      (await world.sql<{ retest_on: string }[]>`SELECT retest_on FROM mark WHERE number = 'C1'`)[0]!
        .retest_on
    ).toBe(retest);
  });
  it('keep a test sent twice once', async () => {
    const key = newKey();
    const send = () =>
      recordTest(
        world.sql,
        world.actor,
        key,
        {
          product: 'LOT',
          lot: 'C2',
          instrument: '',
          sample: '',
          note: '',
          results: [{ name: 'strength', value: '110', unit: 'N' }]
        },
        NOW()
      );
    const [first, again] = [await send(), await send()];
    expect([again.id, first.fresh, again.fresh]).toEqual([first.id, true, false]);
    await signTest(world.sql, second, first.id);
  });
  it('refuse what lies below this customer’s limit, though it conforms to the product’s', async () => {
    expect(
      (await readProposal(world.sql, 'SO-T', 'first expired', {}, TODAY)).choices.find(
        (choice) => choice.number === 'C2'
      )
    ).toMatchObject({ why: 'does not conform', judged: ['strength 110 N is below 120'] });
    expect(
      await world.refused(ship, {
        document: 'SO-T',
        customer: 'CUS',
        lines: [{ product: 'LOT', marks: [{ lot: 'C2', quantity: '1' }] }]
      })
    ).toMatchObject([
      {
        code: 'mark.off-spec',
        message: expect.stringContaining('does not conform: strength 110 N is below 120')
      }
    ]);
    await world.book(ship, {
      document: 'SO-T',
      customer: 'CUS',
      lines: [{ product: 'LOT', marks: [{ lot: 'C1', quantity: '1' }] }]
    });
  });
  it('hold a lot that fails, by rule, before anybody signs; a held one stays held', async () => {
    const failed = await test('C3', '99.9');
    expect(failed).toMatchObject({
      failed: ['strength 99.9 N is below 100'],
      heldBy: expect.any(Number)
    });
    expect((await world.sql`SELECT state FROM mark WHERE number = 'C3'`)[0]!.state).toBe('held');
    expect((await test('C3', '98')).heldBy).toBeNull();
  });
  it('hold under a key in any script, and answer the same when they are sent again', async () => {
    await world.receive('LOT', [{ lot: 'C9' }], '1');
    const send = () =>
      recordTest(
        world.sql,
        world.actor,
        'проверка — 検査 1',
        {
          product: 'LOT',
          lot: 'C9',
          instrument: '',
          sample: '',
          note: '',
          results: [{ name: 'strength', value: '1', unit: 'N' }]
        },
        NOW()
      );
    const first = await send();
    expect(first.heldBy).toEqual(expect.any(Number));
    expect((await world.sql`SELECT state FROM mark WHERE number = 'C9'`)[0]!.state).toBe('held');
    expect((await send()).heldBy).toBe(first.heldBy);
  });
  it('refuse a missing or foreign unit, a characteristic there is not, and a mark there is not', async () => {
    for (const [results, says] of [
      [[{ name: 'strength', value: '130', unit: '' }], 'has no unit. Say N'],
      [[{ name: 'strength', value: '130', unit: 'kg' }], 'is measured in N'],
      [[{ name: 'colour', value: 'red', unit: '' }], 'has no colour. It has: strength'],
      [[], 'at least one result']
    ] as const)
      expect((await refusal(test('C1', '1', { results })))[0]!.message).toContain(says);
    expect((await refusal(test('GHOST', '1')))[0]!.message).toContain(
      'There is no lot GHOST of LOT'
    );
  });
  it('obey what a customer wishes', async () => {
    await putWishes(world.sql, 'cus', [
      {
        product: null,
        leastDays: 30,
        leastShare: null,
        oneLot: false,
        oneDate: false,
        tested: false
      },
      {
        product: 'lot',
        leastDays: null,
        leastShare: null,
        oneLot: true,
        oneDate: true,
        tested: true
      }
    ]);
    expect(
      (await readProposal(world.sql, 'SO-T', 'first expired', {}, TODAY)).wishes.LOT
    ).toMatchObject({ oneLot: true, tested: true, leastDays: null });
    expect(
      (
        await refusal(
          putWishes(world.sql, 'SUP', [
            {
              product: 'NOPE',
              leastDays: null,
              leastShare: '0',
              oneLot: true,
              oneDate: false,
              tested: false
            }
          ])
        )
      ).map((one) => one.code)
    ).toEqual(['partner.unknown', 'product.unknown', 'quantity.mismatch']);
  });
});

describe('a certificate of analysis', () => {
  it('is of everything in a shipment, numbered, and the same any time later', async () => {
    const [event] = await world.sql<
      { id: number }[]
    >`SELECT e.id FROM event e WHERE e.document = 'SO-T' AND e.kind = 'ship'`;
    const issued = await issueCertificate(world.sql, world.actor, { event: event!.id });
    expect(issued.content).toMatchObject({
      customer: 'Customer',
      document: 'SO-T',
      marks: [
        {
          number: 'C1',
          quantity: '1',
          verdict: 'conforms',
          rows: [{ name: 'strength', limit: 'at least 120 N', result: '130 N' }],
          tests: [{ signedBy: 'Second Person' }]
        }
      ]
    });
    await putSpec(world.sql, world.actor, 'LOT', 'CUS', {
      ...NO_SPEC,
      limits: [limit('strength', { least: '500' })]
    });
    expect((await readCertificate(world.sql, issued.number))!.content).toEqual(issued.content);
    expect(
      (await issueCertificate(world.sql, world.actor, { event: event!.id })).content.marks[0]!
        .verdict
    ).toBe('does not conform');
    expect(Buffer.from((await certificatePdf(issued)).subarray(0, 5)).toString()).toBe('%PDF-');
    await expect(world.owner`UPDATE certificate SET issued_at = now()`).rejects.toThrow(
      'append-only'
    );
  });
  it('is refused for what is not tested, has no spec, or is no shipment', async () => {
    await world.receive('LOT', [{ lot: 'RAW' }], '1');
    const idOf = async (number: string) =>
      (await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = ${number}`)[0]!.id;
    expect(
      await refusal(issueCertificate(world.sql, world.actor, { marks: [await idOf('RAW')] }))
    ).toMatchObject([
      { message: expect.stringContaining('RAW of LOT has no signed test of strength') }
    ]);
    expect(
      await refusal(issueCertificate(world.sql, world.actor, { marks: [await idOf('P2')] }))
    ).toMatchObject([{ message: expect.stringContaining('whose product has a spec') }]);
    await expect(issueCertificate(world.sql, world.actor, { event: 1 })).rejects.toMatchObject({
      status: 404
    });
    await expect(
      issueCertificate(world.sql, { ...world.actor, roles: ['auditor'] }, { event: 1 })
    ).rejects.toMatchObject({ status: 403 });
  });
});
