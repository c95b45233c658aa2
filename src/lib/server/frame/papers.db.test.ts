import { inflateSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainPlan } from '../../core/catalogue/plan.ts';
import { amend } from '../stock/kinds.ts';
import { move } from '../stock/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { putPlan } from '../catalogue/plans.ts';
import { putPlace } from '../catalogue/partners-places.ts';
import { putProduct } from '../catalogue/products.ts';
import { readFollowUps } from '../trace/follow-ups.ts';
import { readPutAway } from '../stock/put-away.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { build } from '../making/kinds.ts';
import { putOrder } from '../orders/write-order.ts';
import { nameOutputs } from '../making/planned-outputs.ts';
import { readAsBuilt } from '../trace/as-built.ts';
import { asBuiltPdf } from '../trace/papers/as-built.ts';
import { goodsReceivedPdf, readGoodsReceived } from '../receiving/papers/goods-received.ts';
import { readTraveler, travelerPdf } from '../making/papers/traveler.ts';
import { listLabelJobs, printLabels, readLabelJob } from '../stock/label-jobs.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPlace(world.sql, 'DOCKSIDE', { name: 'dock', site: 'S1', kind: 'dock' });
  await putPlace(world.sql, 'SHELF', { name: 'shelf', site: 'S1', kind: 'rack' });
  await putPlace(world.sql, 'OTHER', { name: 'rack', site: 'S2', kind: 'rack' });
});
afterAll(() => world.end());

const idOf = async (number: string): Promise<number> =>
  (await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number_key = upper(${number})`)[0]!
    .id;

/**
 * How many letters a PDF draws: its text is in the letters of embedded fonts, so they are counted
 * and not read.
 */
function lettersDrawn(pdf: Uint8Array): number {
  const raw = Buffer.from(pdf);
  let letters = 0;
  for (let at = raw.indexOf('stream\n'); at >= 0; at = raw.indexOf('stream\n', at + 7)) {
    const end = raw.indexOf('endstream', at);
    try {
      const text = inflateSync(raw.subarray(at + 7, end)).toString('latin1');
      for (const [, hex] of text.matchAll(/<([0-9a-f]+)>/g)) letters += hex!.length / 4;
    } catch {
      /* a font, not a page */
    }
  }
  return letters;
}

describe('the papers of a build', () => {
  it('take a number with a space in it, and draw every part of the as-built record and every named unit of the traveler', async () => {
    await world.receive('LOT', [{ lot: 'ROLL 12' }], '5');
    await putProduct(world.sql, 'AB-UNIT', {
      name: 'unit',
      unit: 'each',
      decimals: 0,
      made: true,
      marking: 'serial',
      components: [
        { product: 'LOT', quantity: '1' },
        { product: 'SER', quantity: '1' }
      ]
    } as never);
    await putOrder(world.sql, world.actor, 'work', 'WO-AB', {
      due: '2026-12-01',
      note: '',
      lines: [{ product: 'AB-UNIT', quantity: '3' }]
    } as never);
    await nameOutputs(world.sql, world.actor, 'WO-AB', { numbers: ['AB 1', 'AB 2', 'AB 3'] });
    await world.book(build, {
      document: 'WO-AB',
      place: 'LINE',
      groups: [
        {
          outputs: [{ product: 'AB-UNIT', serial: 'AB 1', quantity: '1' }],
          inputs: [{ product: 'LOT', lot: 'ROLL 12', quantity: '1' }]
        }
      ]
    });
    const record = (await readAsBuilt(world.sql, await idOf('AB 1')))!;
    expect(record.counts).toEqual({ missing: 1 });
    const drawn = lettersDrawn(
      await asBuiltPdf(record, { as: 'built' }, new Date('2026-11-23T12:00:00Z'))
    );
    expect(drawn).toBeGreaterThan(
      lettersDrawn(
        await asBuiltPdf(
          { ...record, lines: record.lines.slice(0, 2) },
          { as: 'built' },
          new Date('2026-11-23T12:00:00Z')
        )
      )
    );
    const traveler = (await readTraveler(world.sql, 'wo-ab'))!;
    expect([
      traveler.order.outputs.map((one) => one.mark !== null),
      traveler.components.map((one) => one.product)
    ]).toEqual([
      [true, false, false],
      ['LOT', 'SER']
    ]);
    expect(lettersDrawn(await travelerPdf(traveler))).toBeGreaterThan(
      lettersDrawn(await travelerPdf({ ...traveler, order: { ...traveler.order, outputs: [] } }))
    );
    expect(await readTraveler(world.sql, 'NO-ORDER')).toBeNull();
  });
  it('is as long as it must be, and says where it was cut', async () => {
    const record = (await readAsBuilt(world.sql, await idOf('AB 1')))!;
    const many = {
      ...record,
      cut: true,
      lines: [record.lines[0]!, ...Array.from({ length: 300 }, () => record.lines[2]!)]
    };
    expect((await asBuiltPdf(many, { as: 'built' }, new Date())).length).toBeGreaterThan(
      (await asBuiltPdf(record, { as: 'built' }, new Date())).length
    );
  });
});

describe('the goods received note', () => {
  it('has every number, quantity, date and reason of the receipt', async () => {
    // Practice of the trade (standards.md): 50 serials and 2 lots make 52 movements.
    const serials = Array.from({ length: 50 }, (_, n) => ({ serial: `GRN-${n}` }));
    const booked = await world.book(receive, {
      document: 'GRN-1',
      reference: 'DN 7',
      supplier: 'SUP',
      lines: [
        { product: 'SER', place: 'DOCK', quantity: '50', marks: serials },
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '3',
          marks: [
            { lot: 'GA', quantity: '1', expires: '2020-01-01' },
            { lot: 'GB', quantity: '2' }
          ]
        }
      ]
    });
    const note = (await readGoodsReceived(world.sql, booked.event.id))!;
    expect(note).toMatchObject({
      document: 'GRN-1',
      reference: 'DN 7',
      partner: 'Supplier',
      who: 'Test Person'
    });
    expect(note.rows).toHaveLength(52);
    expect(
      note.rows
        .filter((row) => row.kind === 'lot')
        .map((row) => [row.number, row.quantity, row.expires])
    ).toEqual([
      ['GA', '1', '2020-01-01'],
      ['GB', '2', null]
    ]);
    expect(note.remarks[0]!.message).toMatch(/^GA expired on 1 Jan 2020/);
    const pdf = await goodsReceivedPdf(note);
    expect(Buffer.from(pdf.subarray(0, 5)).toString()).toBe('%PDF-');
    const drawn = lettersDrawn(pdf),
      without = lettersDrawn(
        await goodsReceivedPdf({
          ...note,
          rows: note.rows.filter((row) => row.number !== 'GRN-49')
        })
      );
    expect(drawn).toBeGreaterThan(50 * 'GRN-0'.length);
    expect(drawn).toBeGreaterThan(without);
  });
  it('keeps the number as it was received, and says what it was amended to', async () => {
    const booked = await world.receive('LOT', [{ lot: 'MISREAD' }], '2');
    await world.book(amend, {
      ...{ document: 'AM', reason: 'misread' },
      lines: [{ product: 'LOT', lot: 'MISREAD', to: { number: 'READ' } }]
    });
    const note = (await readGoodsReceived(world.sql, booked.event.id))!;
    expect(note.rows.map((row) => [row.number, row.now])).toEqual([['MISREAD', 'READ']]);
    const more = await world.receive('LOT', [{ lot: 'READ' }], '1');
    const later = (await readGoodsReceived(world.sql, more.event.id))!;
    expect(later.rows.map((row) => [row.number, row.now])).toEqual([['READ', null]]);
  });
  it('is of receipts only', async () =>
    expect(
      await readGoodsReceived(
        world.sql,
        (await world.ship([{ product: 'SER', place: 'DOCK', marks: [{ serial: 'GRN-0' }] }])).event
          .id
      )
    ).toBeNull());
  it('runs over pages without losing a number', async () => {
    const booked = await world.book(receive, {
      document: 'GRN-2',
      supplier: 'SUP',
      lines: [
        {
          product: 'SER',
          place: 'DOCK',
          quantity: '900',
          marks: Array.from({ length: 900 }, (_, n) => ({ serial: `P-${1000 + n}` }))
        }
      ]
    });
    const pdf = Buffer.from(
      await goodsReceivedPdf((await readGoodsReceived(world.sql, booked.event.id))!)
    );
    expect(pdf.toString('latin1').match(/\/Type \/Page\b/g)!.length).toBeGreaterThan(2);
    expect(lettersDrawn(pdf)).toBeGreaterThan(900 * 'P-1000'.length);
  });
});

describe('labels', () => {
  it('keep what was printed as it was, and know a reprint', async () => {
    await world.receive('LOT', [{ lot: 'LAB-1', expires: '2030-01-01' }], '3');
    const mark = await idOf('LAB-1');
    const request = {
      marks: [mark, mark],
      symbol: 'datamatrix' as const,
      size: '50x25' as const,
      copies: 2,
      target: 'printer' as const
    };
    expect(await printLabels(world.sql, world.actor, request)).toMatchObject({
      labels: 1,
      reprints: 0,
      plain: [{ number: 'LAB-1', why: 'LOT has no GTIN' }]
    });
    await world.book(amend, {
      document: 'A',
      reason: 'wrong label',
      lines: [{ product: 'LOT', lot: 'LAB-1', to: { number: 'LAB-2' } }]
    });
    const second = await printLabels(world.sql, world.actor, request);
    expect(second).toMatchObject({ labels: 1, reprints: 1 });
    expect((await readLabelJob(world.sql, second.job - 1))!.labels[0]).toMatchObject({
      number: 'LAB-1',
      before: 0
    });
    expect((await readLabelJob(world.sql, second.job))!.labels[0]).toMatchObject({
      number: 'LAB-2',
      before: 1,
      expires: '2030-01-01'
    });
    expect((await listLabelJobs(world.sql))[0]).toMatchObject({
      id: second.job,
      count: 1,
      reprints: 1,
      copies: 2,
      who: 'Test Person'
    });
  });
  it('of goods without number, of too many, or too small to be read are refused', async () => {
    await world.receive('BULK', undefined, '3');
    const [bulk] = await world.sql<
      { id: number }[]
    >`SELECT m.id FROM mark m JOIN product p ON p.id = m.product_id WHERE p.code = 'BULK'`;
    const print = (marks: number[], symbol: 'datamatrix' | 'gs1-128' = 'datamatrix') =>
      printLabels(world.sql, world.actor, {
        marks,
        symbol,
        size: '50x25',
        copies: 1,
        target: 'pdf'
      });
    await expect(print([bulk!.id])).rejects.toMatchObject({ status: 422 });
    await expect(print(Array.from({ length: 2001 }, (_, n) => n + 1))).rejects.toMatchObject({
      errors: [{ message: expect.stringContaining('2000 are the most') }]
    });
    await world.receive(
      'LOT',
      [{ lot: 'A-VERY-LONG-NUMBER-OF-FIFTY-CHARACTERS-AND-SOME-MORE' }],
      '1'
    );
    await expect(
      print([await idOf('A-VERY-LONG-NUMBER-OF-FIFTY-CHARACTERS-AND-SOME-MORE')], 'gs1-128')
    ).rejects.toMatchObject({
      errors: [{ message: expect.stringContaining('Choose a larger size') }]
    });
    await expect(world.owner`UPDATE label_job SET copies = 1`).rejects.toThrow(/append-only/);
  });
});

describe('what waits at a dock', () => {
  it('goes where the same lies in its own site, and no longer waits once it is put away', async () => {
    await world.receive('KG', [{ lot: 'WAIT' }], '5', 'DOCKSIDE');
    await world.receive('KG', [{ lot: 'THERE' }], '2', 'SHELF');
    await world.receive('KG', [{ lot: 'FAR' }], '9', 'OTHER');
    expect((await readPutAway(world.sql, null)).rows).toMatchObject([
      {
        number: 'WAIT',
        from: 'DOCKSIDE',
        quantity: '5',
        proposal: { place: 'SHELF', why: 'same product' }
      }
    ]);
    await world.book(move, {
      document: 'PA',
      kind: 'put away',
      lines: [{ product: 'KG', lot: 'WAIT', from: 'DOCKSIDE', to: 'SHELF', quantity: '5' }]
    });
    expect((await readPutAway(world.sql, null)).rows).toEqual([]);
  });
});

describe('dates that follow an amendment', () => {
  it('are found through builds of the ledger, however many levels down', async () => {
    await putPlan(world.sql, world.actor, 'MIN', {
      name: 'min',
      ...plainPlan('lot'),
      expires: 'components'
    });
    for (const code of ['KIT', 'BOX'])
      await putProduct(world.sql, code, {
        name: code,
        unit: 'each',
        decimals: 0,
        made: true,
        plan: 'MIN'
      });
    await world.receive(
      'LOT',
      [
        { lot: 'F-A', quantity: '5', expires: '2030-01-01' },
        { lot: 'F-B', quantity: '5', expires: '2031-01-01' }
      ],
      '10'
    );
    await world.build([
      {
        outputs: [{ product: 'KIT', lot: 'K', quantity: '2' }],
        inputs: [
          { product: 'LOT', lot: 'F-A', quantity: '1' },
          { product: 'LOT', lot: 'F-B', quantity: '1' }
        ]
      }
    ]);
    await world.build([
      {
        outputs: [{ product: 'BOX', lot: 'X', quantity: '1' }],
        inputs: [{ product: 'KIT', lot: 'K', quantity: '1' }]
      }
    ]);
    const follow = async (lot: string, expires: string) =>
      (await readFollowUps(world.sql, await idOf(lot), { expires }))
        .map((one) => `${one.product} ${one.number} ${one.from} → ${one.to}`)
        .sort();
    expect(await follow('F-A', '2030-06-01')).toEqual([
      'BOX X 2030-01-01 → 2030-06-01',
      'KIT K 2030-01-01 → 2030-06-01'
    ]);
    expect(await follow('F-A', '2040-01-01')).toEqual([
      'BOX X 2030-01-01 → 2031-01-01',
      'KIT K 2030-01-01 → 2031-01-01'
    ]);
    expect(await follow('F-B', '2040-01-01')).toEqual([]);
  });
});
