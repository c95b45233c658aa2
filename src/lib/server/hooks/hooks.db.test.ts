import { createHmac, generateKeyPairSync, randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Webhook } from 'standardwebhooks';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import type { HookType } from '../../core/hooks/hook-types.ts';
import { reverse } from '../ledger/kinds.ts';
import { sealAll } from '../seal/testing/seal-all.ts';
import { sealKeyOf } from '../seal/seal-key.ts';
import { openRecall } from '../recall/write-recall.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { gatherMessages } from './gather.ts';
import { endHook, makeHook, readDeliveries, readHooks, sendAgain } from './hooks.ts';
import { sendDue } from './send.ts';

interface Told {
  headers: IncomingHttpHeaders;
  body: string;
}

const folder = mkdtempSync(join(tmpdir(), 'earmark-hooks-'));
const key = sealKeyOf(generateKeyPairSync('ed25519').privateKey);
let world: World;
let server: Server;
let url: string;
let told: Told[] = [];
let status = 200;

beforeAll(async () => {
  const file = join(folder, 'factor-key');
  writeFileSync(file, randomBytes(32).toString('hex'));
  vi.stubEnv('EARMARK_FACTOR_KEY', file);
  world = await makeWorld();
  server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      told.push({ headers: request.headers, body });
      response.writeHead(status, { location: url }).end('thanks');
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as { port: number };
  url = `http://127.0.0.1:${port}/`;
});
beforeEach(async () => {
  for (const { id } of await readHooks(world.sql)) await endHook(world.sql, id);
  told = [];
  status = 200;
});
afterAll(async () => {
  vi.unstubAllEnvs();
  await new Promise((done) => server.close(done));
  await world.end();
  rmSync(folder, { recursive: true });
});

const hookOf = (...types: HookType[]) =>
  makeHook(world.sql, world.actor, { name: 'the other system', url, types });
const receive = async (): Promise<number> =>
  (await world.receive('LOT', [{ lot: newKey() }], '5')).event.id;

/** One round of what the server does every few seconds. */
async function round(): Promise<void> {
  await sealAll(world.sql, key);
  await gatherMessages(world.sql);
  await sendDue(world.sql);
}
const due = (hook: number) =>
  world.owner`UPDATE hook_delivery SET next_at = now() WHERE hook_id = ${hook}`;
const standing = async (hook: number) =>
  (await readDeliveries(world.sql, hook)).deliveries.map(({ type, state, tries, answer }) => ({
    type,
    state,
    tries,
    answer
  }));

describe('a hook', () => {
  it('is told of what it was made for, booked after it was made, with all rows', async () => {
    await receive();
    await hookOf('receipt.booked', 'reversal.booked');
    const event = await receive();
    await world.ship([{ product: 'LOT', marks: [{ lot: await aLot(), quantity: '1' }] }]);
    await world.book(reverse, { document: newKey(), event, reason: 'a test' });
    await round();
    // They go out together, in no order: their ids say it.
    const messages = told.map(({ body }) => JSON.parse(body)).sort((a, b) => a.data.id - b.data.id);
    expect(messages.map(({ type }) => type)).toEqual(['receipt.booked', 'reversal.booked']);
    expect(messages[0].data).toMatchObject({
      id: event,
      kind: 'receive',
      partner: 'SUP',
      movements: [{ product: 'LOT', place: 'DOCK', quantity: '5' }]
    });
    await round();
    expect(told).toHaveLength(2);
  });

  it('is signed as Standard Webhooks says, which anybody checks with the secret alone', async () => {
    const { secret } = await hookOf('receipt.booked');
    await receive();
    await round();
    const [{ headers, body }] = told as [Told];
    const id = headers['webhook-id'] as string,
      at = headers['webhook-timestamp'] as string;
    expect(Math.abs(Date.now() / 1000 - Number(at))).toBeLessThan(60);
    // By hand, with Node's own HMAC: what is signed is id, time and body with dots between.
    const bytes = Buffer.from(secret.slice('whsec_'.length), 'base64');
    const mac = createHmac('sha256', bytes).update(`${id}.${at}.${body}`).digest('base64');
    expect(headers['webhook-signature']).toBe(`v1,${mac}`);
  });

  // The example the specification's reference libraries share (standard-webhooks), quoted from memory.
  it('signs the standard’s own example as the standard does', () => {
    const webhook = new Webhook('whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw');
    const at = new Date(1_614_265_330 * 1000);
    expect(webhook.sign('msg_p5jXN8AQM9LWM0D4loKWxJek', at, '{"test": 2432232314}')).toBe(
      'v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE='
    );
  });

  it('that does not take a message is told it again, later and later, under the same id', async () => {
    status = 500;
    const { id } = await hookOf('receipt.booked');
    await receive();
    await round();
    expect(await standing(id)).toEqual([
      { type: 'receipt.booked', state: 'waiting', tries: 1, answer: 'answered 500' }
    ]);
    await round();
    expect(told).toHaveLength(1);
    status = 204;
    await due(id);
    await round();
    expect(told[1]!.headers['webhook-id']).toBe(told[0]!.headers['webhook-id']);
    expect(await standing(id)).toEqual([
      { type: 'receipt.booked', state: 'taken', tries: 2, answer: null }
    ]);
  });

  it('is given up after three days, and told again when somebody asks', async () => {
    status = 503;
    const { id } = await hookOf('receipt.booked');
    await receive();
    for (let tries = 0; tries < 10; tries++) {
      await round();
      await world.owner`
        UPDATE hook_delivery SET next_at = now() WHERE hook_id = ${id} AND next_at IS NOT NULL
      `;
    }
    expect(await standing(id)).toMatchObject([{ state: 'given up', tries: 10 }]);
    expect(await readHooks(world.sql)).toContainEqual(
      expect.objectContaining({ id, waiting: 0, givenUp: 1 })
    );
    status = 200;
    const delivery = (await readDeliveries(world.sql, id)).deliveries[0]!.id;
    await sendAgain(world.sql, id, delivery);
    await round();
    expect(await standing(id)).toMatchObject([{ state: 'taken', tries: 1 }]);
  });

  it('is told once, however many processes tell at the same moment', async () => {
    await hookOf('receipt.booked');
    for (let at = 0; at < 6; at++) await receive();
    await sealAll(world.sql, key);
    await Promise.all(Array.from({ length: 4 }, () => gatherMessages(world.sql)));
    await Promise.all(Array.from({ length: 4 }, () => sendDue(world.sql)));
    const ids = told.map(({ headers }) => headers['webhook-id']);
    expect(ids).toHaveLength(6);
    expect(new Set(ids).size).toBe(6);
  });

  it('that points elsewhere is not followed there', async () => {
    status = 307;
    const { id } = await hookOf('receipt.booked');
    await receive();
    await round();
    expect(told).toHaveLength(1);
    expect(await standing(id)).toMatchObject([{ state: 'waiting', answer: 'answered 307' }]);
  });

  it('that has ended is told nothing, also of what waited', async () => {
    status = 500;
    const { id } = await hookOf('receipt.booked');
    await receive();
    await round();
    await endHook(world.sql, id);
    await receive();
    await round();
    expect(told).toHaveLength(1);
    const delivery = (await readDeliveries(world.sql, id)).deliveries[0]!.id;
    await expect(sendAgain(world.sql, id, delivery)).rejects.toThrow();
    await expect(endHook(world.sql, 999_999)).rejects.toThrow();
  });

  it('is told of a recall as it is opened', async () => {
    await hookOf('recall.opened');
    const [mark] = await world.sql<{ id: number }[]>`SELECT max(id) AS id FROM mark`;
    await openRecall(world.sql, world.actor, newKey(), {
      ...{ title: 'A smell', hazard: 'It smells.', request: '', mock: true, why: '' },
      marks: [mark!.id]
    } as never);
    await round();
    expect(told.map(({ body }) => JSON.parse(body))).toMatchObject([
      { type: 'recall.opened', data: { title: 'A smell', mock: true } }
    ]);
  });
});

async function aLot(): Promise<string> {
  const [row] = await world.sql<{ number: string }[]>`
    SELECT m.number
    FROM mark m
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
    WHERE m.kind = 'lot'
    ORDER BY m.id
    LIMIT 1
  `;
  return row!.number;
}
