import { afterAll, beforeAll, expect, test } from 'vitest';
import { putPartner } from '../catalogue/partners-places.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { problemOf, refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { traceMark } from '../trace/trace.ts';
import { exchange } from './exchange.ts';
import { ship } from './kinds.ts';
import { Exchange } from './schemas.ts';

let world: World;
let n = 0;
beforeAll(async () => {
  world = await makeWorld();
  await putPartner(world.sql, 'OTHER', { name: 'another', supplier: false, customer: true });
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});

/** One unit at each of these customers, and as many on the shelf. */
async function shipped(...customers: string[]): Promise<{ out: string[]; here: string[] }> {
  n++;
  const out = customers.map((_, at) => `X${n}-${at}`);
  const here = customers.map((_, at) => `Y${n}-${at}`);
  await world.receive(
    'SIL',
    [...out, ...here].map((serial) => ({ lot: `L${n}`, serial }))
  );
  for (const [at, customer] of customers.entries()) {
    const lines = [{ product: 'SIL', marks: [{ serial: out[at]! }] }];
    await world.book(ship, { document: `S-${out[at]}`, customer, lines });
  }
  return { out, here };
}
const asked = (out: string[], instead: (string | undefined)[], more: object = {}) =>
  Exchange.parse({
    document: `EX-${n}`,
    place: 'RACK',
    reason: 'weak',
    lines: out.map((serial, at) => ({
      product: 'SIL',
      serial,
      ...(instead[at] === undefined ? {} : { replacement: { serial: instead[at] } })
    })),
    ...more
  });
const exchanged = (given: ReturnType<typeof asked>, key = newKey()) =>
  exchange(world.sql, world.actor, key, given);
const balanceOf = async (serial: string) => {
  const mark = (await findMarkId(world.sql, 'SIL', undefined, serial))!;
  return (await traceMark(world.sql, mark, 'downstream'))!;
};

test('what comes back is held here, what goes out is with whoever had it', async () => {
  const { out, here } = await shipped('CUS', 'CUS');
  const { exchanged: booked, fresh } = await exchanged(asked(out, [here[0], undefined]));
  expect(fresh).toBe(true);
  expect(booked.returned.marks.map((mark) => mark.state)).toEqual(['held', 'held']);
  expect(booked.shipped.marks.map((mark) => mark.number)).toEqual([here[0]]);
  expect((await balanceOf(out[0]!)).ends.customers).toEqual([]);
  expect((await balanceOf(here[0]!)).ends.customers).toMatchObject([{ partner: 'CUS' }]);
});

test('sent again it is booked once, and under its key nothing else is', async () => {
  const { out, here } = await shipped('CUS');
  const key = newKey();
  const first = await exchanged(asked(out, here), key);
  expect(await exchanged(asked(out, here), key)).toEqual({ ...first, fresh: false });
  const other = exchanged(asked(out, here, { reason: 'another' }), key);
  expect(await refusalsOf(other)).toEqual(['409 key.used Idempotency-Key']);
});

test('where one of the two cannot be, neither is, and the fault says which line', async () => {
  const { out, here } = await shipped('CUS', 'CUS');
  const nothing = async () => expect((await balanceOf(out[0]!)).ends.customers).toHaveLength(1);
  const gone = exchanged(asked(out, [undefined, out[0]]));
  expect(await refusalsOf(gone)).toEqual(['422 mark.held lines[1].replacement']);
  await nothing();
  const unknown = exchanged(asked(out, [here[0], 'NEVER-MADE']));
  expect(await refusalsOf(unknown)).toEqual(['422 mark.unknown lines[1].replacement']);
  await nothing();
  const notShipped = exchanged(asked([here[0]!], [here[1]]));
  expect((await refusalsOf(notShipped))[0]).toMatch(/^422 \S+ lines\[0\]/);
});

test('what two customers had is no exchange of one', async () => {
  const { out, here } = await shipped('CUS', 'OTHER');
  expect(await refusalsOf(exchanged(asked(out, here)))).toEqual(['422 partner.unknown customer']);
});

test('nothing to send out is a return; and it takes both rights', async () => {
  const { out, here } = await shipped('CUS');
  expect(
    Exchange.safeParse({ ...asked(out, here), lines: [{ product: 'SIL', serial: 'x' }] }).success
  ).toBe(false);
  const receiver = { ...world.actor, roles: ['receiver' as const] };
  const refused = await problemOf(exchange(world.sql, receiver, newKey(), asked(out, here)));
  expect(refused.status).toBe(403);
});
