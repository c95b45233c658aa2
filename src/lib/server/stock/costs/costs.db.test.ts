import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Receipt } from '../../../core/ledger/request.ts';
import { reverse } from '../../ledger/kinds.ts';
import { build, fit, repack, teardown } from '../../making/kinds.ts';
import { receive } from '../../receiving/kinds.ts';
import { goodsReturn, ship } from '../../shipping/kinds.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { forgetForeignTransactions } from '../../kernel/db/after-restore.ts';
import { putBill } from '../../catalogue/bills.ts';
import { correct, revalue } from '../kinds.ts';
import { carryCosts } from './carry-costs.ts';
import { readValue, readValueBy } from './read-value.ts';
import { readValueChanges } from './read-value-changes.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

type Lines = Receipt['lines'];
let papers = 0;
const paper = () => `C-${++papers}`;
const buy = async (...lines: Lines) =>
  (await world.book(receive, { document: paper(), supplier: 'SUP', lines })).event.id;
const line = (product: string, number: string, quantity: string, unitCost?: string) => ({
  ...{ product, place: 'RACK', quantity, ...(unitCost ? { unitCost } : {}) },
  marks: [product === 'SER' || product === 'MADE' ? { serial: number } : { lot: number }]
});
/** What one of a number costs now. */
const costOf = async (product: string, number: string): Promise<string | null> => {
  await carryCosts(world.sql);
  const [row] = await world.sql<{ cost: string | null }[]>`
    SELECT trim_scale(k.unit_cost)::text AS cost
    FROM mark m
      JOIN product p ON p.id = m.product_id AND p.code = ${product}
      LEFT JOIN mark_cost k ON k.mark_id = m.id
    WHERE m.number = ${number}
    ORDER BY k.event_id DESC, k.told_by DESC
    LIMIT 1
  `;
  return row?.cost ?? null;
};
const made = (unit: string, ...inputs: [string, string, string][]) =>
  world.book(build, {
    document: paper(),
    place: 'LINE',
    groups: [
      {
        outputs: [{ product: 'MADE', serial: unit, quantity: '1' }],
        inputs: inputs.map(([product, number, quantity]) => ({
          product,
          quantity,
          ...(product === 'SER' ? { serial: number } : { lot: number })
        }))
      }
    ]
  });

describe('what things cost', () => {
  it('follows them from the receipt through a build; a correction flows down, and what left is told apart', async () => {
    const receipt = await buy(line('LOT', 'A1', '10', '4'), line('SER', 'A2', '1', '50'));
    await made('AU1', ['LOT', 'A1', '2'], ['SER', 'A2', '1']);
    expect(await costOf('MADE', 'AU1')).toBe('58');
    await world.ship([{ product: 'LOT', marks: [{ lot: 'A1', quantity: '3' }] }]);
    const freight = { receipt, reason: 'freight', lines: [] };
    // 90 came in; 45 of freight by value is half of it on top.
    const landed = { amount: '45', by: 'value' as const };
    const { event } = await world.book(revalue, { document: paper(), ...freight, landed });
    expect(await costOf('LOT', 'A1')).toBe('6');
    expect(await costOf('SER', 'A2')).toBe('75');
    expect(await costOf('MADE', 'AU1')).toBe('87');
    const { rows } = await readValueChanges(
      world.sql,
      { from: '2020-01-01', to: '2099-12-31' },
      100
    );
    const told = rows.filter((row) => row.event === event.id);
    expect(told.map((row) => [row.number, row.amount, row.gone, row.reason])).toEqual([
      ['A1', '10', '6', 'freight'],
      // What is in AU1 is worth nothing of its own any more.
      ['AU1', '29', '0', 'freight']
    ]);
  });

  it('is not known where a part of it is not, and is known once it is told', async () => {
    const receipt = await buy(line('LOT', 'B1', '4'), line('SER', 'B2', '1', '9'));
    await made('BU1', ['LOT', 'B1', '1'], ['SER', 'B2', '1']);
    expect(await costOf('MADE', 'BU1')).toBeNull();
    const { rows, unknown, total } = await readValue(world.sql, { product: 'LOT', number: 'B1' });
    expect([rows.map((row) => row.value), unknown, total]).toEqual([[null], 1, '0']);
    const lines = [{ product: 'LOT', lot: 'B1', unitCost: '2.5' }];
    await world.book(revalue, { document: paper(), receipt, reason: 'the bill came', lines });
    expect(await costOf('MADE', 'BU1')).toBe('11.5');
    expect(await readValue(world.sql, { number: 'B1' })).toMatchObject({
      total: '7.5',
      unknown: 0
    });
  });

  it('taken back, it is as if it had never come', async () => {
    await buy(line('LOT', 'D1', '10', '1'));
    const second = await buy(line('LOT', 'D1', '10', '3'));
    await made('DU1', ['LOT', 'D1', '5']);
    expect(await costOf('MADE', 'DU1')).toBe('10');
    await world.book(reverse, { document: paper(), event: second, reason: 'another lot' });
    expect(await costOf('LOT', 'D1')).toBe('1');
    expect(await costOf('MADE', 'DU1')).toBe('5');
  });

  // standards.md: 30 packs of 3 kg at 6 = 30 of 1 kg at 2 + 30 of 2 kg at 4 = 180 (practice).
  it('is conserved by a repack, and by what a repack’s source is told to cost later', async () => {
    await world.owner`UPDATE product SET net_weight_kg = 3 WHERE code = 'LOT'`;
    await world.owner`UPDATE product SET net_weight_kg = 1 WHERE code = 'MADELOT'`;
    await world.owner`UPDATE product SET net_weight_kg = 2 WHERE code = 'KG'`;
    const receipt = await buy(line('LOT', 'E1', '30', '6'));
    const groups = [
      {
        sources: [{ product: 'LOT', lot: 'E1', quantity: '30' }],
        results: [
          { product: 'MADELOT', lot: 'E2', quantity: '30' },
          { product: 'KG', lot: 'E3', quantity: '30' }
        ]
      }
    ];
    await world.book(repack, { document: paper(), place: 'LINE', groups });
    expect([await costOf('MADELOT', 'E2'), await costOf('KG', 'E3')]).toEqual(['2', '4']);
    const lines = [{ product: 'LOT', lot: 'E1', unitCost: '9' }];
    await world.book(revalue, { document: paper(), receipt, reason: 'wrong price', lines });
    expect([await costOf('MADELOT', 'E2'), await costOf('KG', 'E3')]).toEqual(['3', '6']);
  });

  it('of a unit takes what its bill adds, follows a swap, and comes apart into its parts', async () => {
    const parts = [
      {
        ...{ product: 'SER', quantity: '1', scrapPercent: '0', revision: null },
        ...{ per: 'unit' as const, follow: 'unit' as const, positions: [], alternates: [] }
      }
    ];
    const head = { batch: null, note: '', coProducts: [], validFrom: '2020-01-01' };
    await putBill(world.sql, 'MADE', { ...head, parts, addedCost: '12' }, null);
    await buy(line('SER', 'F1', '1', '20'));
    await buy(line('SER', 'F2', '1', '26'));
    await made('FU1', ['SER', 'F1', '1']);
    expect(await costOf('MADE', 'FU1')).toBe('32');
    const swap = {
      ...{ product: 'MADE', serial: 'FU1', fit: [{ product: 'SER', serial: 'F2' }] },
      remove: [{ product: 'SER', serial: 'F1', to: 'RACK' }]
    };
    const why = 'the old one leaked';
    await world.book(fit, { document: paper(), place: 'LINE', reason: why, units: [swap] });
    expect(await costOf('MADE', 'FU1')).toBe('38');
    const units = [{ product: 'MADE', serial: 'FU1', parts: [{ product: 'SER', serial: 'F2' }] }];
    const apart = { document: paper(), place: 'LINE', reason: why, units };
    const { event } = await world.book(teardown, apart);
    expect(await costOf('SER', 'F2')).toBe('26');
    const { rows } = await readValueChanges(
      world.sql,
      { from: '2020-01-01', to: '2099-12-31' },
      100
    );
    expect(rows.find((row) => row.event === event.id)).toMatchObject({
      number: 'FU1',
      amount: '-12'
    });
  });

  it('of what comes back is its own, and of what is found is told where costs are kept', async () => {
    await buy(line('SER', 'G1', '1', '70'));
    await world.book(ship, {
      ...{ document: paper(), customer: 'CUS' },
      lines: [{ product: 'SER', marks: [{ serial: 'G1' }] }]
    });
    const back = { document: paper(), place: 'RACK', lines: [{ product: 'SER', serial: 'G1' }] };
    await world.book(goodsReturn, back);
    expect(await costOf('SER', 'G1')).toBe('70');
    await world.owner`UPDATE company SET currency = 'GBP'`;
    const gain = (serial: string, unitCost?: string) => ({
      ...{ document: paper(), kind: 'gain' as const, reason: 'found' },
      lines: [{ product: 'SER', place: 'RACK', serial, ...(unitCost ? { unitCost } : {}) }]
    });
    expect(await world.refused(correct, gain('G2'))).toMatchObject([
      { code: 'cost.missing', path: 'lines[0].unitCost', number: 'G2' }
    ]);
    await world.book(correct, gain('G2', '65'));
    expect(await costOf('SER', 'G2')).toBe('65');
    await world.owner`UPDATE company SET currency = NULL`;
  });

  it('stands as it did on a day, by what was told until then', async () => {
    const at = (day: string) => ({ at: `${day}T09:00:00Z` });
    const bought = {
      ...{ document: paper(), supplier: 'SUP', ...at('2024-03-01') },
      lines: [line('KG', 'H1', '10', '2')]
    };
    const { event } = await world.book(receive, bought);
    const lines = [{ product: 'KG', lot: 'H1', unitCost: '3' }];
    const told = { document: paper(), receipt: event.id, reason: 'freight', ...at('2024-03-10') };
    await world.book(revalue, { ...told, lines });
    const on = async (day?: string) => (await readValue(world.sql, { day, number: 'H1' })).total;
    expect([await on('2024-02-29'), await on('2024-03-01'), await on('2024-03-09')]).toEqual([
      ...['0', '20', '20']
    ]);
    expect([await on('2024-03-10'), await on()]).toEqual(['30', '30']);
    const by = await readValueBy(world.sql, 'product', { number: 'H1' });
    expect(by).toMatchObject([{ code: 'KG', quantity: '10', total: '30', unknown: 0, marks: 1 }]);
  });

  it('is carried once, however many ask at once, and in the order of the ledger', async () => {
    await Promise.all(
      Array.from({ length: 6 }, (_, n) => buy(line('LOT', 'I1', '1', String(n + 1))))
    );
    await Promise.all(Array.from({ length: 5 }, () => carryCosts(world.sql)));
    // 1 to 6 at one each: 3.5 on the average, whichever came first.
    expect(await costOf('LOT', 'I1')).toBe('3.5');
    const [row] = await world.sql<{ twice: number }[]>`
      SELECT count(*)::int - count(DISTINCT (mark_id, event_id, told_by))::int AS twice FROM mark_cost
    `;
    expect(row!.twice).toBe(0);
  });
});

describe('after a restore', () => {
  it('what was not carried before it is carried, and nothing twice', async () => {
    await buy(line('LOT', 'K1', '1', '4'));
    await carryCosts(world.sql);
    await buy(line('LOT', 'K1', '1', '6'));
    // As a dump of a cluster that has given many more numbers comes back.
    await world.owner.begin(async (tx) => {
      await tx`ALTER TABLE event DISABLE TRIGGER append_only`;
      await tx`UPDATE event SET booked_xid = (booked_xid::text::bigint + 4000000000)::text::xid8`;
      await tx`ALTER TABLE event ENABLE TRIGGER append_only`;
      await tx`
        UPDATE cost_carried
        SET snapshot = (split_part(snapshot, ':', 1)::bigint + 4000000000)::text || ':'
          || (split_part(snapshot, ':', 2)::bigint + 4000000000)::text || ':'
      `;
    });
    expect(await forgetForeignTransactions(world.owner)).toBeGreaterThan(0);
    expect(await costOf('LOT', 'K1')).toBe('5');
    await buy(line('LOT', 'K1', '2', '9'));
    expect(await costOf('LOT', 'K1')).toBe('7');
    expect(await forgetForeignTransactions(world.owner)).toBe(0);
  });
});

describe('a revaluation refuses', () => {
  it('what did not come in by it, what has no cost to add to, and amounts that are none', async () => {
    const receipt = await buy(line('LOT', 'J1', '2'), line('SER', 'J2', '1', '5'));
    const refused = async (more: object) =>
      (
        await world.refused(revalue, {
          ...{ document: paper(), reason: 'why', lines: [], receipt },
          ...more
        })
      ).map((fault) => `${fault.code} ${fault.path}`);
    const freight = (amount: string, by: string) => ({ landed: { amount, by } });
    expect(await refused(freight('5', 'value'))).toEqual(['cost.missing landed']);
    expect(await refused(freight('0', 'value'))).toEqual(['quantity.mismatch landed.amount']);
    const lines = [{ product: 'LOT', lot: 'J1', unitCost: '3' }];
    expect(await refused({ lines, ...freight('-4', 'quantity') })).toEqual([
      'quantity.mismatch landed.amount'
    ]);
    const stray = [{ product: 'LOT', lot: 'A1', unitCost: '3' }];
    expect(await refused({ lines: stray })).toEqual(['mark.unknown lines[0]']);
    expect(await refused({ lines: [lines[0], lines[0]] })).toEqual(['mark.duplicate lines[1]']);
    const costs = ['-1', '1e400'].map((unitCost) => ({ ...lines[0], unitCost }));
    expect(await refused({ lines: costs })).toEqual([
      'quantity.mismatch lines[0].unitCost',
      'quantity.mismatch lines[1].unitCost'
    ]);
    expect(await refused({})).toEqual(['cost.missing lines']);
    const [shipped] = await world.sql<{ id: number }[]>`
      SELECT id FROM event WHERE kind = 'ship' LIMIT 1
    `;
    expect(await refused({ receipt: shipped!.id, lines })).toEqual(['mark.unknown receipt']);
  });
});
