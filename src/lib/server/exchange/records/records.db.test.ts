import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RECORD_KINDS, RECORDS, type RecordKind } from '../../../core/exchange/records.ts';
import { plainPlan } from '../../../core/catalogue/plan.ts';
import { putPlan } from '../../catalogue/plans.ts';
import { putProduct } from '../../catalogue/products.ts';
import { today } from '../../kernel/clock.ts';
import { reverse } from '../../ledger/kinds.ts';
import { logSecurity } from '../../people/security-log.ts';
import { putPerson } from '../../people/write-people.ts';
import { receive } from '../../receiving/kinds.ts';
import { amend, correct } from '../../stock/kinds.ts';
import { problemOf } from '../../testing/caught.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { RecordsQuery } from './asked.ts';
import { readRecords, recordKind, recordsAsked, recordsFile } from './read-records.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('KG', [{ lot: 'RESIN', supplierNumber: 'X-1' }], '10');
  await world.receive('SER', [{ serial: 'A1' }, { serial: 'A2' }, { serial: 'A3' }]);
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: 'U1', quantity: '1' }],
      inputs: [
        { product: 'KG', lot: 'RESIN', quantity: '2' },
        { product: 'SER', serial: 'A1', quantity: '1' }
      ]
    }
  ]);
});
afterAll(() => world.end());

const read = (kind: RecordKind, asked: object = {}) =>
  readRecords(world.sql, kind, recordsAsked(RecordsQuery.parse(asked)), 100);
const said = async (kind: RecordKind, keys: string[], asked: object = {}) =>
  (await read(kind, asked)).rows.map((row) => keys.map((key) => row[key]).join(' | '));

describe('what an auditor asks for', () => {
  it('what went out: where it came from, what was in it then, and what was taken back', async () => {
    const sent = await world.ship([
      { product: 'MADE', marks: [{ serial: 'U1' }] },
      { product: 'SER', marks: [{ serial: 'A2' }] }
    ]);
    const again = await world.ship([{ product: 'SER', marks: [{ serial: 'A3' }] }]);
    await world.book(reverse, { document: 'T', event: again.event.id, reason: 'wrong door' });
    const keys = ['customer', 'product', 'number', 'quantity', 'came', 'madeOf', 'takenBack'];
    expect(await said('shipped', keys)).toEqual([
      expect.stringMatching(/^Customer \| SER \| A3 \| 1 \| Supplier, R-\d+ \| {2}\| yes$/),
      expect.stringMatching(
        /^Customer \| MADE \| U1 \| 1 \| build, B-\d+ \| KG RESIN, SER A1 \| $/
      ),
      expect.stringMatching(/^Customer \| SER \| A2 \| 1 \| Supplier, R-\d+ \| {2}\| $/)
    ]);
    expect(await said('shipped', ['number'], { q: 'u1' })).toEqual(['U1']);
    expect(await said('shipped', ['number'], { q: sent.event.document })).toEqual(['U1', 'A2']);
    expect((await read('shipped', { q: 'nobody' })).total).toBe(0);
    expect((await read('shipped', { from: '2020-01-01', to: '2020-12-31' })).total).toBe(0);
    const cut = await readRecords(world.sql, 'shipped', recordsAsked(RecordsQuery.parse({})), 1);
    expect([cut.rows.length, cut.total]).toEqual([1, 3]);
  });

  it('what was put right, with what stood there before', async () => {
    const lines = [{ product: 'KG', lot: 'RESIN', to: { supplierNumber: 'X-2' } }];
    await world.book(amend, { document: 'AM', reason: 'misread', lines });
    const keys = ['number', 'field', 'was', 'is', 'reason', 'by'];
    expect(await said('changes', keys)).toEqual([
      'RESIN | supplier’s number | X-1 | X-2 | misread | Test Person'
    ]);
  });

  it('gains and losses with their reason', async () => {
    const lines = [{ product: 'KG', lot: 'RESIN', quantity: '1', place: 'DOCK' }];
    await world.book(correct, { document: 'LO', kind: 'loss', reason: 'spilt', lines });
    const keys = ['kind', 'number', 'quantity', 'amount', 'reason', 'by'];
    expect(await said('gains', keys)).toEqual([
      expect.stringMatching(/^loss \| RESIN \| -?1 \| not known \| spilt \| Test Person$/)
    ]);
    expect((await read('gains', { q: 'resin' })).total).toBe(1);
    expect((await read('gains', { q: 'cyl' })).total).toBe(0);
  });

  it('what was booked in spite of a fault, and why', async () => {
    const { answers, ...plain } = plainPlan('lot');
    const strict = {
      ...plain,
      name: 'strict',
      answers: { ...answers, 'arrives expired': 'reason' }
    };
    await putPlan(world.sql, world.actor, 'STRICT', strict as never);
    const old = { name: 'old', unit: 'each', decimals: 0, made: false, plan: 'STRICT' };
    await putProduct(world.sql, 'OLD', old as never);
    const marks = [{ lot: 'OLD-1', expires: '2020-01-01' }];
    await world.book(receive, {
      ...{ document: 'R-OLD', supplier: 'SUP', reasons: { 'mark.expired': 'for a drill' } },
      lines: [{ product: 'OLD', place: 'DOCK', quantity: '1', marks }]
    });
    const keys = ['document', 'number', 'answer', 'reason', 'by', 'approvedBy'];
    expect(await said('overruled', keys)).toEqual([
      'R-OLD | OLD-1 | reason | for a drill | Test Person | '
    ]);
    expect((await read('overruled', { q: 'old-1' })).total).toBe(1);
  });

  it('who could do what at the end of a day, and who said so', async () => {
    const person = { name: 'Ada Larch', roles: ['receiver' as const], active: true };
    await putPerson(world.sql, world.actor, 'ada', person);
    await putPerson(world.sql, world.actor, 'ada', { ...person, roles: ['auditor'] });
    const keys = ['name', 'roles', 'standing', 'by'];
    expect(await said('rights', keys, { q: 'ada' })).toEqual([
      'Ada Larch | auditor | open | Test Person'
    ]);
    expect(await said('rights', ['name'], { right: 'edit.people' })).toEqual(['Test Person']);
    expect((await read('rights', { day: '2020-01-01' })).total).toBe(0);
    // Nobody writes it by hand, and nothing of it is changed.
    const forged = world.sql`
      INSERT INTO person_standing (person_id, name, roles, active)
      SELECT id, name, '{administrator}', true FROM person LIMIT 1
    `;
    await expect(forged).rejects.toMatchObject({ code: '42501' });
    await expect(world.owner`UPDATE person_standing SET active = false`).rejects.toThrow();
  });

  it('what was taken away as a file', async () => {
    const { personId, login } = world.actor;
    const about = 'GET /api/v1/exports/ledger?format=xlsx';
    await logSecurity(world.sql, {
      ...{ kind: 'file taken', actor: { personId, login }, address: '10.1.1.1', about }
    });
    expect(await said('exports', ['who', 'address', 'about'])).toEqual([
      `Test Person | 10.1.1.1 | ${about}`
    ]);
  });

  it.each(RECORD_KINDS)('%s is had as a file with every column it shows', async (kind) => {
    const asked = recordsAsked(RecordsQuery.parse({}));
    const { body, name } = await recordsFile(world.sql, kind, asked, 'csv');
    const heading = new TextDecoder().decode(body).split('\r\n')[0]!.split(',');
    expect(heading.slice(0, RECORDS[kind].columns.length)).toEqual(
      RECORDS[kind].columns.map(({ says }) => says)
    );
    expect(name).toContain(today());
  });

  it('is for whoever may see it', async () => {
    const receiver = { ...world.actor, roles: ['receiver' as const] };
    expect(recordKind('shipped', receiver)).toBe('shipped');
    for (const [kind, status] of [
      ['gains', 403],
      ['rights', 403],
      ['constructor', 404]
    ] as const) {
      const asked = problemOf((async () => recordKind(kind, receiver))());
      expect((await asked).status).toBe(status);
    }
  });
});
