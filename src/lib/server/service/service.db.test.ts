import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { monthsLater } from '../../core/calendar/day.ts';
import { putPartner } from '../catalogue/partners-places.ts';
import type { BookedAnswer } from '../ledger/book.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { goodsReturn, ship } from '../shipping/kinds.ts';
import { quality } from '../quality/kinds.ts';
import { today } from '../kernel/clock.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { readAsBuilt } from '../trace/as-built.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { traceMark } from '../trace/trace.ts';
import { noteOnJob, turnJob } from './change-job.ts';
import { readFigures } from './figures.ts';
import { fitInJob } from './fit-job.ts';
import { listOpenJobs } from './list-jobs.ts';
import { openJob } from './open-job.ts';
import { readJob } from './read-job.ts';
import { NewServiceJob } from './schemas.ts';
import { sendBack } from './send-back.ts';
import { keepSettings, readSettings } from './settings.ts';
import { arriveForService } from './take-in.ts';
import { readTracking } from './tracking.ts';

let world: World;
let n = 0;
let unit = '';
let head = '';
beforeAll(async () => {
  world = await makeWorld();
  await putPartner(world.sql, 'OTHER', { name: 'another', supplier: false, customer: true });
  await world.sql`UPDATE product SET warranty_months = 24 WHERE code IN ('MADE', 'SIL')`;
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});
/** A unit with one head, shipped to CUS; and another head on the shelf. */
beforeEach(async () => {
  n++;
  [unit, head] = [`J${n}`, `H${n}`];
  await world.receive('SIL', [
    { lot: 'HEADS', serial: head },
    { lot: 'HEADS', serial: `${head}x` }
  ]);
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: unit, quantity: '1' }],
      inputs: [{ product: 'SIL', serial: head, quantity: '1' }]
    }
  ] as never);
  const lines = [{ product: 'MADE', marks: [{ serial: unit }] }];
  await world.book(ship, { document: `S-${unit}`, customer: 'CUS', lines });
});

const asked = (more: object = {}) =>
  NewServiceJob.parse({
    unit: { product: 'MADE', serial: unit },
    customer: 'CUS',
    place: 'RACK',
    fault: 'does not fire',
    ...more
  });
const start = async (more: object = {}, key = newKey()) =>
  (await openJob(world.sql, world.actor, key, asked(more))).opened.job;
const swapped = (number: string, key = newKey()) =>
  fitInJob(world.sql, world.actor, key, number, {
    place: 'DOCK',
    reason: 'weak head',
    units: [
      {
        product: 'MADE',
        serial: unit,
        remove: [{ product: 'SIL', serial: head, to: 'RACK', state: 'held' }],
        fit: [{ product: 'SIL', serial: `${head}x` }]
      }
    ]
  });
const back = async (number: string, more: object = {}, key = newKey()) =>
  JSON.parse((await sendBack(world.sql, world.actor, key, number, more)).answer) as BookedAnswer;
const job = (number: string) => readJob(world.sql, number, today());

describe('a service job', () => {
  it('takes a unit in, swaps its head, and sends it back under its warranty', async () => {
    const opened = await start({ customer: 'OTHER' });
    expect(opened).toMatchObject({ state: 'to look at' });
    expect(opened.warranty.ours).toMatch(/^until \d{4}-\d\d-\d\d$/);
    const before = await job(opened.number);
    // It came by another than bought it, is held, and is who it was sold to all the same.
    expect(before.job).toMatchObject({ customer: 'OTHER', markState: 'held', underWarranty: true });
    expect(before.sales.map((sale) => sale.partnerCode)).toEqual(['CUS']);

    await turnJob(world.sql, world.actor, opened.number, { state: 'in work', note: '' });
    await noteOnJob(world.sql, world.actor, newKey(), opened.number, {
      kind: 'finding',
      note: 'spring is tired'
    });
    await swapped(opened.number);
    const sent = await back(opened.number);
    expect(sent.event.kind).toBe('ship');
    const after = await job(opened.number);
    expect(after.job).toMatchObject({ state: 'sent back', markState: 'usable' });
    expect(after.events.map((event) => event.kind)).toEqual(['return', 'swap', 'release', 'ship']);
    expect(after.steps.flatMap((step) => step.state ?? step.note)).toEqual([
      'waiting for unit',
      'to look at',
      'in work',
      'spring is tired',
      'sent back'
    ]);
    // Ours goes on from the sale and not from the day it was sent back.
    expect(after.warranties!.ours).toEqual(before.warranties!.ours);
    const parts = (await readAsBuilt(world.sql, after.job.mark!, { as: 'is' }))!.lines.slice(1);
    expect(parts.map((line) => line.mark?.number)).toEqual([`${head}x`]);
    const root = (await findMarkId(world.sql, 'MADE', undefined, unit))!;
    const trace = (await traceMark(world.sql, root, 'downstream'))!;
    expect(trace.ends.customers).toMatchObject([{ partner: 'OTHER', quantity: '1' }]);
    expect(trace.balance).toMatchObject({ in: '1', shipped: '1', open: '0' });
  });

  it('awaits a unit that is still at the customer’s, and takes nothing out of it there', async () => {
    const opened = await start({ place: undefined });
    expect(opened.state).toBe('waiting for unit');
    expect(await refusalsOf(swapped(opened.number))).toEqual(['422 job.turn number']);
    expect(await refusalsOf(back(opened.number))).toEqual(['422 job.turn number']);
    const turn = turnJob(world.sql, world.actor, opened.number, { state: 'in work', note: '' });
    expect(await refusalsOf(turn)).toEqual(['422 job.turn state']);
    const key = newKey();
    const arrive = (place: string) =>
      arriveForService(world.sql, world.actor, key, opened.number, { place });
    expect(await refusalsOf(arrive('NOWHERE'))).toEqual(['422 place.unknown place']);
    await arrive('RACK');
    await arrive('RACK');
    expect((await job(opened.number)).job).toMatchObject({ state: 'to look at', place: 'RACK' });
  });

  it('takes in a unit nobody here knows: its mark is of foreign origin, and it goes back', async () => {
    const serial = `FOREIGN-${n}`;
    const opened = await start({ unit: { product: 'MADE', serial } });
    expect(opened.warranty).toEqual({ ours: 'none' });
    const root = (await findMarkId(world.sql, 'MADE', undefined, serial))!;
    const origins = async () => (await traceMark(world.sql, root, 'upstream'))!.ends.origins;
    expect(await origins()).toMatchObject([{ kind: 'intake', quantity: '1' }]);
    expect((await job(opened.number)).job.markState).toBe('held');
    await back(opened.number);
    const trace = (await traceMark(world.sql, root, 'downstream'))!;
    expect(trace.balance).toMatchObject({ in: '1', shipped: '1', onHand: '0', open: '0' });
  });

  it('goes on with a unit that lies here already, as one that was returned before', async () => {
    const lines = [{ product: 'MADE', serial: unit }];
    await world.book(goodsReturn, { document: 'RMA', place: 'RACK', lines });
    const { number } = await start();
    expect((await job(number)).events).toEqual([]);
    await back(number);
    expect((await job(number)).job.state).toBe('sent back');
  });

  it('sends another out in its place: the old one stays, held', async () => {
    const other = `${unit}B`;
    await world.build([
      { outputs: [{ product: 'MADE', serial: other, quantity: '1' }], inputs: [] }
    ] as never);
    const { number } = await start();
    const none = { exchange: { product: 'MADE', serial: 'NONE' } };
    expect(await refusalsOf(back(number, none))).toEqual(['422 mark.unknown exchange']);
    await back(number, { exchange: { product: 'MADE', serial: other } });
    const after = await job(number);
    expect(after.job).toMatchObject({ markState: 'held', exchange: { serial: other } });
    expect(after.job.state).toBe('sent back');
    // The one that went out has a warranty of its own, from the day it went.
    const again = await start({ unit: { product: 'MADE', serial: other } });
    expect(again.warranty.ours).toMatch(/^until/);
    expect((await job(again.number)).jobs.map((one) => one.number)).toEqual([number]);
  });

  it('does not release what somebody else held', async () => {
    const { number } = await start();
    const marks = [{ product: 'MADE', serial: unit }];
    const decide = (kind: 'release' | 'hold') =>
      world.book(quality, { document: 'H', kind, reason: 'looked at', marks } as never);
    await decide('release');
    await decide('hold');
    expect(await refusalsOf(back(number))).toEqual(['422 mark.held lines[0].marks[0]']);
    expect((await job(number)).job.state).toBe('to look at');
  });
});

describe('a warranty', () => {
  it('is as long as the customer’s contract says, and stays where nothing is said of it', async () => {
    const partner = { name: 'customer', supplier: false, customer: true };
    await putPartner(world.sql, 'CUS', { ...partner, warrantyMonths: 60 });
    const { number } = await start();
    const { warranties } = await job(number);
    expect(warranties!.ours).toMatchObject({ until: monthsLater(today(), 60) });
    const changed = await putPartner(world.sql, 'CUS', partner);
    expect(changed.partner.warrantyMonths).toBe(60);
    const taken = await putPartner(world.sql, 'CUS', { ...partner, warrantyMonths: null });
    expect(taken.partner.warrantyMonths).toBeNull();
  });
});

describe('a job refuses', () => {
  it('a second one of the same unit, also at the same moment', async () => {
    const both = await Promise.allSettled([start(), start()]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await refusalsOf(start())).toEqual(['409 job.open unit']);
  });

  it('everything that is wrong at once', async () => {
    const wrong = { unit: { product: 'NONE', serial: ' ' }, customer: 'NOBODY', faultCode: 'X' };
    expect(await refusalsOf(start(wrong))).toEqual([
      '422 product.unknown unit.product',
      '422 partner.unknown customer',
      '422 number.malformed unit.serial',
      '422 fault.unknown faultCode'
    ]);
    expect(await refusalsOf(start({ place: 'NOWHERE' }))).toEqual(['422 place.unknown place']);
    const open = await listOpenJobs(world.sql);
    expect(open.rows.some((row) => row.serial === unit)).toBe(false);
  });

  it('another unit’s parts, a turn it cannot take, and whoever may not', async () => {
    const { number } = await start();
    const foreign = fitInJob(world.sql, world.actor, newKey(), number, {
      place: 'DOCK',
      reason: 'wrong',
      units: [
        { product: 'MADE', serial: 'J1-OTHER', fit: [{ product: 'SIL', serial: `${head}x` }] }
      ]
    });
    expect(await refusalsOf(foreign)).toEqual(['422 mark.wrong-product units[0]']);
    const turn = (state: 'ended' | 'sent back') =>
      turnJob(world.sql, world.actor, number, { state, note: '' });
    expect(await refusalsOf(turn('ended'))).toEqual(['422 job.turn state']);
    expect(await refusalsOf(turn('sent back'))).toEqual(['422 job.turn state']);
    const builder = { ...world.actor, roles: ['builder' as const] };
    const opened = openJob(world.sql, builder, newKey(), asked());
    expect((await refusalsOf(opened))[0]).toMatch(/^403/);
  });

  it('to be opened, worked on or ended twice by one sending', async () => {
    const key = newKey();
    const first = await start({}, key);
    expect(await start({}, key)).toEqual(first);
    const fitted = newKey();
    const once = await swapped(first.number, fitted);
    expect(await swapped(first.number, fitted)).toEqual({ ...once, fresh: false });
    const sent = newKey();
    const answer = await back(first.number, {}, sent);
    expect(await back(first.number, {}, sent)).toEqual(answer);
    expect(await swapped(first.number, fitted)).toEqual({ ...once, fresh: false });
  });
});

describe('figures', () => {
  it('count what was here, how long, what failed and how old it was', async () => {
    const { number } = await start();
    await swapped(number);
    await back(number);
    await start();
    const figures = await readFigures(world.sql, { product: 'MADE' }, today());
    expect(figures.repeats).toContainEqual({ number: expect.any(String), serial: unit });
    expect(figures.turnaround).toMatchObject({ median: 0 });
    expect(figures.products.map((group) => group.says)).toEqual(['MADE']);
    const lot = figures.lots.find((group) => group.says === 'SIL HEADS')!;
    expect(lot.serials).toContain(unit);
    expect(figures.suppliers[0]!.serials).toContain(unit);
    // All of it left today and failed in its first month.
    expect(figures.field).toHaveLength(1);
    expect(figures.field[0]!.failed).toBeGreaterThan(0);
    const none = await readFigures(world.sql, { product: 'MADE', to: '2001-01-01' }, today());
    expect(none).toMatchObject({ jobs: 0, repeats: [], lots: [] });
  });
});

describe('the customer', () => {
  it('is told of the turns the company tells of, where there is an address', async () => {
    const settings = await readSettings(world.sql);
    const tells = ['to look at', 'sent back'] as const;
    const changed = { ...settings, tells: [...tells], tracking: true };
    await keepSettings(world.sql, { ...world.actor, roles: ['coordinator'] }, changed);
    const silent = await start();
    await back(silent.number);
    expect((await job(silent.number)).messages).toEqual([]);
    const contact = { name: 'Bo', email: 'bo@skarrow.example' };
    const told = await start({ contact });
    await turnJob(world.sql, world.actor, told.number, { state: 'ready', note: '' });
    await back(told.number);
    const { messages } = await job(told.number);
    expect(messages.map((one) => [one.address, one.subject])).toEqual([
      ['bo@skarrow.example', `${told.number}: it has reached us and will be looked at`],
      ['bo@skarrow.example', `${told.number}: it is on its way back to you`]
    ]);
    const named = /Tracking number (\S+)\./.exec(messages[0]!.body)![1]!;
    expect(readTracking(named)).toBe(told.tracking);
  });
});
