import { afterAll, beforeAll, expect, test } from 'vitest';
import { checkEvent, openProof } from '../../core/seal/check-proof.ts';
import { openRecall } from '../recall/write-recall.ts';
import { refusalsOf } from '../testing/caught.ts';
import type { World } from '../testing/world.ts';
import { proveMany } from './prove-many.ts';
import { newSealKey, sealedWorld, textOf } from './testing/seal-all.ts';
import { restsCase, restsCertificate, restsTrace } from './what-rests.ts';

// Proof files of many events: what a trace, a recall and a certificate rest on.
let world: World;
let received = 0;
let shipped = 0;
beforeAll(async () => {
  ({ world, received, shipped } = await sealedWorld(newSealKey()));
});
afterAll(() => world.end());

test('a trace, a recall and a certificate rest on events that are proved together', async () => {
  const [unit] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'M1'`;
  const asked = (query: string) => new URL(`http://e/?${query}`);
  const up = await restsTrace(world.sql, asked('direction=upstream'), String(unit!.id));
  // What went in came with another that did not: its receipt is behind the trace, once.
  expect(up.events).toEqual([...new Set(up.events)]);
  expect(up.events).toEqual(expect.arrayContaining([received, shipped]));
  const text = await textOf(proveMany(world.sql, up.of, up.events));
  const opened = openProof(JSON.parse(text))!;
  expect(opened.of).toBe('trace upstream of M1 of MADE');
  expect(opened.events.map(({ event }) => event)).toEqual(up.events);
  expect(opened.events.map(checkEvent).every(({ holds }) => holds)).toBe(true);

  const { number } = await openRecall(world.sql, world.actor, 'proved', {
    ...{ title: 't', hazard: 'h', request: '', mock: true, marks: [unit!.id], why: '' }
  });
  expect((await restsCase(world.sql, number)).events).toContain(shipped);
  expect(await refusalsOf(restsCase(world.sql, 'RC-9999'))).toEqual(['404 recall.unknown code']);
  expect(await refusalsOf(restsCertificate(world.sql, 99))).toEqual([
    '404 certificate.unknown code'
  ]);
  expect(await refusalsOf(restsTrace(world.sql, asked(''), '999999'))).toEqual([
    '404 mark.unknown code'
  ]);
});

test('a proof of many names the event that was altered since, and no other', async () => {
  await world.owner.begin(async (tx) => {
    await tx`SET LOCAL session_replication_role = replica`;
    await tx`UPDATE event SET document = 'FORGED' WHERE id = ${shipped}`;
  });
  const text = await textOf(proveMany(world.sql, 'x', [received, shipped]));
  const checked = openProof(JSON.parse(text))!.events.map(checkEvent);
  expect(checked.map(({ event, holds }) => [event, holds])).toEqual([
    [received, true],
    [shipped, false]
  ]);
});

test('of nothing, or of more than one file takes, there is none', async () => {
  expect(await refusalsOf(proveMany(world.sql, 'x', []))).toEqual(['422 request.malformed events']);
  const many = Array.from({ length: 50_001 }, (_, id) => id + 1);
  expect(await refusalsOf(proveMany(world.sql, 'x', many))).toEqual([
    '422 request.malformed events'
  ]);
});
