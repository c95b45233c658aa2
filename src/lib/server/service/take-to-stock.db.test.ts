import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { plainPlan } from '../../core/catalogue/plan.ts';
import { putPlan } from '../catalogue/plans.ts';
import { today } from '../kernel/clock.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { sign } from '../people/signatures.ts';
import { putPerson } from '../people/write-people.ts';
import { ship } from '../shipping/kinds.ts';
import { readMarkPage } from '../stock/mark-page.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { openJob } from './open-job.ts';
import { readJob } from './read-job.ts';
import { NewServiceJob } from './schemas.ts';
import { takeToStock } from './take-to-stock.ts';

let world: World;
let n = 0;
let unit = '';
let number = '';
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});
/** A unit that was shipped and is here on a job. */
beforeEach(async () => {
  unit = `R${++n}`;
  await world.receive('SIL', [{ lot: 'BACK', serial: unit }]);
  await sell(unit);
  number = await takeIn(unit);
});

const sell = (serial: string) =>
  world.book(ship, {
    document: `S-${serial}`,
    customer: 'CUS',
    lines: [{ product: 'SIL', marks: [{ serial }] }]
  });
async function takeIn(serial: string): Promise<string> {
  const given = NewServiceJob.parse({
    unit: { product: 'SIL', serial },
    customer: 'CUS',
    place: 'RACK',
    fault: 'weak'
  });
  return (await openJob(world.sql, world.actor, newKey(), given)).opened.job.number;
}
const kept = (more: object = {}, actor = world.actor, key = newKey()) =>
  takeToStock(world.sql, actor, key, number, { reason: 'bought back', ...more });
const service = () => ({ ...world.actor, roles: ['service' as const] });

test('it is stock under its own number, free at once by whoever decides quality', async () => {
  expect(await kept()).toEqual({ serial: unit, held: false });
  const { job, steps } = await readJob(world.sql, number, today());
  expect(job).toMatchObject({ state: 'ended', markState: 'usable', serialNow: unit });
  expect(steps.at(-1)).toMatchObject({ state: 'ended', note: 'Into our stock: bought back' });
  await sell(unit);
});

test('it is stock under a new number, and both lives stand on one page', async () => {
  const serial = `${unit}-RC`;
  expect(await kept({ serial })).toEqual({ serial, held: false });
  const { job } = await readJob(world.sql, number, today());
  expect(job).toMatchObject({ serial: unit, serialNow: serial });
  const mark = (await findMarkId(world.sql, 'SIL', undefined, serial))!;
  const kinds = (await readMarkPage(world.sql, mark))!.timeline.map((event) => event.kind);
  for (const kind of ['receive', 'ship', 'return', 'amendment', 'release'])
    expect(kinds).toContain(kind);
  await sell(serial);
  // It comes back once more, under the number it was sold by the second time.
  expect(await takeIn(serial)).not.toBe(number);
});

test('whoever may not decide leaves it held', async () => {
  expect(await kept({}, service())).toEqual({ serial: unit, held: true });
  expect((await refusalsOf(sell(unit)))[0]).toMatch(/^422 mark\.held/);
});

test('a number that is taken is refused where it was given, and nothing is done', async () => {
  await world.receive('SIL', [{ lot: 'BACK', serial: `${unit}-T` }]);
  expect(await refusalsOf(kept({ serial: `${unit}-T` }))).toEqual(['422 mark.duplicate serial']);
  expect((await readJob(world.sql, number, today())).job.state).toBe('to look at');
});

test('sent again it answers the same; a job that is over takes nothing more', async () => {
  const key = newKey();
  const serial = `${unit}-RC`;
  const first = await kept({ serial }, world.actor, key);
  expect(await kept({ serial }, world.actor, key)).toEqual(first);
  expect(await refusalsOf(kept())).toEqual(['422 job.turn number']);
});

test('where a plan has number and release signed, both signatures come with the one act', async () => {
  await putPerson(world.sql, null, 'signs', {
    ...{ name: 'Signs', roles: ['quality'], active: true, password: 'harbour lantern walk' }
  });
  await putPlan(world.sql, world.actor, 'SIGNED', {
    ...{ name: 'signed', ...plainPlan('serial-in-lot') },
    signers: { amendment: 'a second person', release: 'whoever does it' }
  });
  await world.owner`
    UPDATE product SET plan_id = (SELECT id FROM marking_plan WHERE code = 'SIGNED') WHERE code = 'SIL'
  `;
  const serial = `${unit}-RC`;
  const signed = async (act: 'amendment' | 'release') =>
    (
      await sign(world.sql, world.actor, {
        ...{ act, document: number, login: 'signs', password: 'harbour lantern walk', reason: 'r' }
      })
    ).signature;
  const missing = ['422 signature.missing serial'];
  expect(await refusalsOf(kept({ serial }))).toEqual(missing);
  const first = await signed('amendment');
  expect(await refusalsOf(kept({ serial, signature: first }))).toEqual([
    '422 signature.missing signature'
  ]);
  const both = `${first} ${await signed('release')}`;
  expect(await kept({ serial, signature: both })).toEqual({ serial, held: false });
});
