import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainPlan, WAYS, type MarkingPlan } from '../../core/catalogue/plan.ts';
import { announce } from '../orders/announced.ts';
import { allotNumbers, putScheme } from '../catalogue/numbering.ts';
import { putOrder } from '../orders/write-order.ts';
import { putPlan, readPlans, readPlanVersion } from '../catalogue/plans.ts';
import { putProduct } from '../catalogue/products.ts';
import { onOtherDrafts, keepDraft } from '../ledger/drafts.ts';
import { readEventPage } from '../ledger/event-page.ts';
import { find } from '../frame/find.ts';
import { readOrder } from '../orders/read-orders.ts';
import { traceMark } from '../trace/trace.ts';
import { readUnnumbered } from '../stock/unnumbered.ts';
import {
  makeWorld,
  newKey,
  onHandByMovements,
  onHandByStock,
  type World
} from '../testing/world.ts';
import { amend } from '../stock/kinds.ts';
import { giveNumbers } from '../stock/kinds.ts';
import { move } from '../stock/kinds.ts';
import { receive } from './kinds.ts';
import { ship } from '../shipping/kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(async () => {
  // Whatever these tests booked, stock is what the movements say (law 3).
  expect(await onHandByStock(world.sql)).toEqual(await onHandByMovements(world.sql));
  await world.end();
});

const plan = (more: Partial<MarkingPlan> = {}, name = 'a plan') => ({
  name,
  ...plainPlan('lot'),
  ...more,
  facts: [...(more.facts ?? [])]
});
const product = (more: object = {}) => ({
  name: 'p',
  unit: 'each',
  decimals: 0,
  made: false,
  ...more
});
const idOf = async (number: string): Promise<number> =>
  (await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number_key = upper(${number})`)[0]!
    .id;
const TEMPERATURE = {
  name: 'arrival temperature',
  kind: 'number' as const,
  unit: '°C',
  least: '2',
  most: '8',
  choices: [],
  required: true
};

describe('marking plans', () => {
  it('are versioned: the same again is no new version, and an old booking keeps the plan of its day', async () => {
    expect(
      await putPlan(
        world.sql,
        world.actor,
        'COLD',
        plan({ facts: [TEMPERATURE], expires: 'computed', shelfLifeDays: 10 })
      )
    ).toMatchObject({ version: 1 });
    expect(
      await putPlan(
        world.sql,
        world.actor,
        'cold',
        plan({ facts: [TEMPERATURE], expires: 'computed', shelfLifeDays: 10 })
      )
    ).toMatchObject({ version: 1 });
    await putProduct(world.sql, 'GLUE', product({ plan: 'COLD' }) as never);
    const line = (lot: string, facts: Record<string, string>) => ({
      document: `R-${lot}`,
      supplier: 'SUP',
      lines: [{ product: 'GLUE', place: 'DOCK', quantity: '1', marks: [{ lot, facts }] }]
    });
    const first = await world.book(receive, line('G1', { 'arrival temperature': '4.5' }));
    expect(first.marks[0]).toMatchObject({
      number: 'G1',
      facts: { 'arrival temperature': { value: '4.5', unit: '°C' } }
    });
    expect(first.marks[0]!.expires).toMatch(/^\d{4}/);
    expect((await world.refused(receive, line('G2', {}))).map((fault) => fault.code)).toEqual([
      'fact.missing'
    ]);
    expect(
      (await world.refused(receive, line('G2', { 'arrival temperature': '12' }))).map(
        (fault) => fault.code
      )
    ).toEqual(['mark.off-spec']);

    expect(
      await putPlan(
        world.sql,
        world.actor,
        'COLD',
        plan({
          facts: [TEMPERATURE],
          expires: 'computed',
          shelfLifeDays: 10,
          answers: { ...plainPlan('lot').answers, 'off limits': 'reason' }
        })
      )
    ).toMatchObject({ version: 2 });
    const [asked] = await world.refused(receive, line('G2', { 'arrival temperature': '12' }));
    expect(asked).toMatchObject({ code: 'mark.off-spec', answer: 'reason' });
    const second = await world.book(receive, {
      ...line('G2', { 'arrival temperature': '12' }),
      reasons: { 'mark.off-spec': 'logger shows one hour above 8' }
    });
    expect(await readEventPage(world.sql, first.event.id)).toMatchObject({
      plans: [{ product: 'GLUE', plan: 'COLD', version: 1 }],
      remarks: []
    });
    expect(await readEventPage(world.sql, second.event.id)).toMatchObject({
      plans: [{ version: 2 }],
      remarks: [{ code: 'mark.off-spec', number: 'G2', reason: 'logger shows one hour above 8' }]
    });
    expect((await readPlanVersion(world.sql, 'COLD', 1))!.answers['off limits']).toBe('stop');
    expect((await readPlans(world.sql)).find((one) => one.code === 'COLD')).toMatchObject({
      version: 2,
      products: ['GLUE'],
      versions: [{ version: 2, who: 'Test Person' }, { version: 1 }]
    });
  });

  it('cannot be changed once kept, not even by the application', async () => {
    await expect(world.owner`UPDATE marking_plan_version SET body = '{}'`).rejects.toThrow(
      /append-only/
    );
    await expect(world.sql`DELETE FROM booking_remark`).rejects.toThrow(/permission denied/);
    await expect(world.owner`DELETE FROM event_plan`).rejects.toThrow(/append-only/);
  });

  it('are refused where they say what cannot be, or name what is not there', async () => {
    await expect(
      putPlan(world.sql, world.actor, 'BAD', plan({ retest: 'computed' }))
    ).rejects.toMatchObject({ status: 422 });
    await expect(
      putPlan(world.sql, world.actor, 'BAD', plan({ lotScheme: 'NONE' }))
    ).rejects.toMatchObject({ errors: [{ code: 'mark.unknown' }] });
    await expect(
      putProduct(world.sql, 'P1', product({ plan: 'NONE' }) as never)
    ).rejects.toMatchObject({ errors: [{ path: 'plan' }] });
    await expect(
      putProduct(world.sql, 'P1', product({ plan: 'COLD', marking: 'serial' }) as never)
    ).rejects.toMatchObject({ errors: [{ path: 'marking' }] });
    await expect(putProduct(world.sql, 'P1', product() as never)).rejects.toMatchObject({
      errors: [{ path: 'marking' }]
    });
  });

  it('number by the scheme of their present version, not by one that was taken out', async () => {
    await putScheme(world.sql, 'SEQ', {
      name: 'seq',
      reset: 'never',
      segments: [
        { kind: 'text', text: 'Q-' },
        { kind: 'counter', width: 3, letters: false }
      ]
    });
    await putPlan(world.sql, world.actor, 'NUMBERED', plan({ lotScheme: 'SEQ' }));
    await putProduct(world.sql, 'SEQUENCE', product({ plan: 'NUMBERED' }) as never);
    const allot = () =>
      allotNumbers(
        world.sql,
        world.actor,
        newKey(),
        { product: 'SEQUENCE', kind: 'lot', count: 2 },
        new Date()
      );
    expect((await allot()).numbers).toEqual(['Q-001', 'Q-002']);
    await putPlan(world.sql, world.actor, 'NUMBERED', plan());
    await expect(allot()).rejects.toMatchObject({ errors: [{ code: 'mark.missing' }] });
  });

  it('give a new identity to their products, unless numbers on hand would be stuck', async () => {
    await putPlan(world.sql, world.actor, 'LOOSE', plan({ identity: 'none', expires: 'not kept' }));
    await putProduct(world.sql, 'NUT', product({ plan: 'LOOSE' }) as never);
    await world.receive('NUT', undefined, '7');
    const { says } = await putPlan(
      world.sql,
      world.actor,
      'LOOSE',
      plan({ identity: 'serial', asks: WAYS['at every step, but it may come later'] })
    );
    expect(says.join(' ')).toContain('7 each without number is on hand');
    expect((await readUnnumbered(world.sql)).rows).toMatchObject([
      { product: 'NUT', quantity: '7', place: 'DOCK', lot: null }
    ]);
    await world.book(giveNumbers, {
      document: 'ID-1',
      lines: [{ product: 'NUT', place: 'DOCK', marks: [{ serial: 'N-1' }, { serial: 'N-2' }] }]
    });
    expect((await readUnnumbered(world.sql)).rows).toMatchObject([{ quantity: '5' }]);
    await expect(
      putPlan(world.sql, world.actor, 'LOOSE', plan({ identity: 'none', expires: 'not kept' }))
    ).rejects.toMatchObject({ errors: [{ code: 'balance.open', number: 'NUT' }] });
  });
});

describe('numbers given late', () => {
  it('a serial asked only at shipping is given there, and the trace runs from the customer to the supplier and back', async () => {
    await putPlan(
      world.sql,
      world.actor,
      'ATSHIP',
      plan({ identity: 'serial', asks: WAYS['only when it is shipped'], expires: 'not kept' })
    );
    await putProduct(world.sql, 'PUMP', product({ plan: 'ATSHIP' }) as never);
    await world.receive('PUMP', undefined, '10');
    // not owed: the plan leaves it for shipping
    expect((await readUnnumbered(world.sql)).rows.some((row) => row.product === 'PUMP')).toBe(
      false
    );
    const shipped = await world.book(ship, {
      document: 'S-PUMP',
      customer: 'CUS',
      lines: [{ product: 'PUMP', marks: [{ serial: 'P-1' }, { serial: 'P-2' }] }]
    });
    expect(shipped.marks.map((mark) => [mark.number, mark.onHand])).toEqual([
      ['P-1', '0'],
      ['P-2', '0']
    ]);
    const up = (await traceMark(world.sql, await idOf('P-1'), 'upstream'))!;
    expect(up.marks.map((mark) => mark.number)).toEqual(['P-1', null]);
    expect(up.ends.suppliers).toMatchObject([{ partner: 'SUP', quantity: '10' }]);
    const down = (await traceMark(world.sql, up.marks[1]!.id, 'downstream'))!;
    expect(down.ends.customers.map((end) => end.document)).toEqual(['S-PUMP', 'S-PUMP']);
    expect(down.balance).toMatchObject({ in: '10', onHand: '8', used: '2', open: '0' });
  });

  it('serials out of a lot’s own stock: balance and content of the lot close', async () => {
    await putPlan(
      world.sql,
      world.actor,
      'SOON',
      plan({ identity: 'serial-in-lot', asks: WAYS['at every step, but it may come later'] })
    );
    await putProduct(world.sql, 'VALVE', product({ plan: 'SOON' }) as never);
    await world.book(receive, {
      document: 'R-V',
      supplier: 'SUP',
      lines: [
        { product: 'VALVE', place: 'DOCK', quantity: '6', marks: [{ lot: 'VL', serial: 'V-1' }] }
      ]
    });
    await world.book(giveNumbers, {
      document: 'ID-V',
      lines: [
        {
          product: 'VALVE',
          place: 'DOCK',
          lot: 'VL',
          marks: [{ serial: 'V-2' }, { serial: 'V-3' }]
        }
      ]
    });
    await world.ship([{ product: 'VALVE', place: 'DOCK', marks: [{ serial: 'V-2' }] }]);
    const down = (await traceMark(world.sql, await idOf('VL'), 'downstream'))!;
    expect(down.balance).toMatchObject({ in: '6', onHand: '4', used: '2', open: '0' });
    expect(down.marks.map((mark) => [mark.number, mark.content])).toEqual([
      ['VL', '6'],
      ['V-1', '1'],
      ['V-2', '1'],
      ['V-3', '1']
    ]);
  });

  it('two people numbering the same stock at once never number more than there is', async () => {
    await putProduct(world.sql, 'RACE', product({ plan: 'ATSHIP' }) as never);
    await world.receive('RACE', undefined, '10');
    const all = await Promise.allSettled(
      Array.from({ length: 8 }, (_, n) =>
        world.book(ship, {
          document: `S-${n}`,
          customer: 'CUS',
          lines: [
            {
              product: 'RACE',
              marks: [{ serial: `X${n}-1` }, { serial: `X${n}-2` }, { serial: `X${n}-3` }]
            }
          ]
        })
      )
    );
    expect(all.filter((one) => one.status === 'fulfilled')).toHaveLength(3);
  });
});

describe('an amendment', () => {
  it('keeps the old number, which still finds the mark and is told where it is used', async () => {
    await world.receive(
      'LOT',
      [{ lot: 'WRONG-7', expires: '2027-01-31', supplierNumber: 'S/7' }],
      '3'
    );
    const id = await idOf('WRONG-7');
    await world.book(amend, {
      document: 'A-1',
      reason: 'read off the wrong label',
      lines: [
        {
          product: 'LOT',
          lot: 'WRONG-7',
          to: { number: 'RIGHT-7', expires: '2027-07-31', supplierNumber: 'S/8' }
        }
      ]
    });
    expect((await find(world.sql, 'wrong-7', { today: '2026-11-23' }))[0]).toMatchObject({
      title: 'RIGHT-7',
      href: `/marks/${id}`,
      exact: true,
      under: expect.stringContaining('was WRONG-7')
    });
    expect((await find(world.sql, 'S/7', { today: '2026-11-23' }))[0]).toMatchObject({
      title: 'RIGHT-7'
    });
    const [fault] = await world.refused(ship, {
      document: 'S',
      customer: 'CUS',
      lines: [{ product: 'LOT', marks: [{ lot: 'WRONG-7', quantity: '1' }] }]
    });
    expect(fault).toMatchObject({
      code: 'mark.unknown',
      message: expect.stringContaining('is RIGHT-7 now')
    });
    await world.ship([{ product: 'LOT', marks: [{ lot: 'right-7', quantity: '1' }] }]);
  });
  it('of a number that another took meanwhile is refused, also when both ask at once', async () => {
    await world.receive(
      'LOT',
      [
        { lot: 'R-A', quantity: '1' },
        { lot: 'R-B', quantity: '1' }
      ],
      '2'
    );
    const both = await Promise.allSettled(
      ['R-A', 'R-B'].map((lot) =>
        world.book(amend, {
          document: 'A-2',
          reason: 'both want it',
          lines: [{ product: 'LOT', lot, to: { number: 'R-C' } }]
        })
      )
    );
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
  });
  it('changes a fact and nothing else, with a reason always', async () => {
    await world.book(amend, {
      document: 'A-3',
      reason: 'typing slip',
      lines: [{ product: 'GLUE', lot: 'G1', to: { facts: { 'arrival temperature': '5.4' } } }]
    });
    const [mark] = await world.sql<{ facts: object }[]>`SELECT facts FROM mark WHERE number = 'G1'`;
    expect(mark!.facts).toEqual({ 'arrival temperature': { value: '5.4', unit: '°C' } });
    await expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('amendment', 'X', now(), ${world.actor.personId})`
    ).rejects.toThrow(/reason_where_due/);
    await expect(world.sql`UPDATE mark SET number = 'HACKED' WHERE number = 'G1'`).rejects.toThrow(
      /permission denied/
    );
  });
});

describe('a lot number', () => {
  it('may be that of another product’s lot, and with another expiry of this one is asked about', async () => {
    await world.receive('LOT', [{ lot: 'SHARED', expires: '2030-01-01' }], '1');
    await world.receive('KG', [{ lot: 'SHARED', expires: '2031-01-01' }], '1');
    const [fault] = await world.refused(receive, {
      document: 'R',
      supplier: 'SUP',
      lines: [
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '1',
          marks: [{ lot: 'shared', expires: '2031-01-01' }]
        }
      ]
    });
    expect(fault).toMatchObject({
      code: 'mark.duplicate',
      message:
        'Lot SHARED is known to expire on 1 Jan 2030, and here 1 Jan 2031 is given. Give the same date, another lot, or amend the lot first.'
    });
  });
});

describe('a move', () => {
  it('splits a lot over places, and two takers at once never take more than there is', async () => {
    await world.receive('LOT', [{ lot: 'SPLIT' }], '10');
    await world.book(move, {
      document: 'PA-1',
      kind: 'put away',
      lines: [
        { product: 'LOT', lot: 'SPLIT', from: 'DOCK', to: 'RACK', quantity: '4' },
        { product: 'LOT', lot: 'SPLIT', from: 'DOCK', to: 'LINE', quantity: '3.5' }
      ]
    });
    const takers = await Promise.allSettled(
      [1, 2, 3].map((n) =>
        world.book(move, {
          document: `PA-${n}`,
          kind: 'move',
          lines: [{ product: 'LOT', lot: 'SPLIT', from: 'RACK', to: 'DOCK', quantity: '2' }]
        })
      )
    );
    expect(takers.filter((one) => one.status === 'fulfilled')).toHaveLength(2);
    const rows = await world.sql<
      { code: string; quantity: string }[]
    >`SELECT c.code, s.quantity::float8 AS quantity FROM stock s JOIN place c ON c.id = s.place_id WHERE s.mark_id = ${await idOf('SPLIT')} AND s.quantity > 0 ORDER BY c.code`;
    expect(rows.map((row) => [row.code, row.quantity])).toEqual([
      ['DOCK', 6.5],
      ['LINE', 3.5]
    ]);
  });
});

describe('a purchase order', () => {
  const today = '2026-11-23';
  it('in packs, with a tolerance and announced numbers, over several receipts', async () => {
    await putProduct(
      world.sql,
      'BOB',
      product({
        marking: 'lot',
        units: [{ name: 'pack', holds: '100', gtin: '09506000134352' }],
        overReceiptPercent: '5'
      }) as never
    );
    await putOrder(world.sql, world.actor, 'purchase', 'PO-1', {
      partner: 'SUP',
      due: today,
      note: '',
      lines: [
        { product: 'BOB', quantity: '2', unit: 'pack' },
        {
          product: 'SER',
          quantity: '2',
          announced: [{ serial: 'AN-1', expires: '2030-01-01' }, { serial: 'AN-2' }]
        }
      ]
    });
    const before = (await readOrder(world.sql, 'purchase', 'PO-1'))!;
    expect(before.lines).toMatchObject([
      {
        quantity: '200',
        enteredAs: '2 pack',
        most: '210',
        units: [{ name: 'pack', holds: '100', gtin: '09506000134352' }]
      },
      {
        announced: [
          { serial: 'AN-1', arrived: false },
          { serial: 'AN-2', arrived: false }
        ]
      }
    ]);
    // Entered again the other way round, the announced serials stay with their product.
    const again = (lines: object[]) =>
      putOrder(world.sql, world.actor, 'purchase', 'PO-1', {
        partner: 'SUP',
        due: today,
        note: '',
        lines: lines as never
      });
    const bob = { product: 'BOB', quantity: '2', unit: 'pack' };
    await again([{ product: 'SER', quantity: '2' }, bob]);
    expect((await readOrder(world.sql, 'purchase', 'PO-1'))!.lines).toMatchObject([
      { product: 'SER', announced: [{ serial: 'AN-1' }, { serial: 'AN-2' }] },
      { product: 'BOB' }
    ]);
    await again([bob, { product: 'SER', quantity: '2' }]);
    expect((await find(world.sql, 'an-1', { today: today }))[0]).toMatchObject({
      type: 'announced',
      href: '/receive/PO-1'
    });
    const part = (quantity: string, lot: string) => ({
      document: 'PO-1',
      supplier: 'SUP',
      lines: [{ product: 'BOB', place: 'DOCK', quantity, marks: [{ lot }] }]
    });
    await world.book(receive, part('150', 'B1'));
    await world.book(receive, {
      document: 'PO-1',
      supplier: 'SUP',
      lines: [{ product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: 'AN-1' }] }]
    });
    expect((await world.refused(receive, part('61', 'B2')))[0]).toMatchObject({
      code: 'quantity.mismatch'
    });
    await world.book(receive, part('60', 'B2'));
    expect((await readOrder(world.sql, 'purchase', 'PO-1'))!.lines).toMatchObject([
      { done: '210', left: '0' },
      {
        announced: [
          { serial: 'AN-1', arrived: true },
          { serial: 'AN-2', arrived: false }
        ]
      }
    ]);
    expect(
      await announce(world.sql, world.actor, 'PO-1', {
        lines: [{ line: 2, marks: [{ serial: 'AN-2' }, { serial: 'AN-3' }] }]
      })
    ).toEqual({ announced: 2 });
    await expect(
      announce(world.sql, world.actor, 'PO-1', {
        lines: [
          { line: 2, marks: [{ serial: 'A' }, { serial: 'a ' }] },
          { line: 9, marks: [] }
        ]
      })
    ).rejects.toMatchObject({ errors: [{ code: 'mark.duplicate' }, { code: 'mark.unknown' }] });
  });
  it('booked by two at once takes in no more than was ordered', async () => {
    await putOrder(world.sql, world.actor, 'purchase', 'PO-2', {
      partner: 'SUP',
      due: today,
      note: '',
      lines: [{ product: 'LOT', quantity: '10' }]
    });
    const both = await Promise.allSettled(
      ['A', 'B'].map((lot) =>
        world.book(receive, {
          document: 'PO-2',
          supplier: 'SUP',
          lines: [
            { product: 'LOT', place: 'DOCK', quantity: '10', marks: [{ lot: `TWICE-${lot}` }] }
          ]
        })
      )
    );
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
  });
});

describe('drafts', () => {
  it('tell of a number that stands on somebody else’s draft, not on one’s own', async () => {
    const [other] = await world.sql<
      { id: number }[]
    >`INSERT INTO person (login, name, roles) VALUES ('other', 'Other Person', '{receiver}') RETURNING id`;
    await keepDraft(world.sql, other!.id, 'receive PO-9', { lines: {} }, [
      'SER serial S-1',
      'SER serial S-2'
    ]);
    await keepDraft(world.sql, world.actor.personId, 'receive PO-9', { lines: {} }, [
      'SER serial S-1'
    ]);
    expect(
      await onOtherDrafts(world.sql, world.actor.personId, () => [
        'SER serial S-1',
        'SER serial S-3'
      ])
    ).toEqual([{ number: 'SER serial S-1', who: 'Other Person' }]);
    expect(await onOtherDrafts(world.sql, world.actor.personId, () => [])).toEqual([]);
  });
});
