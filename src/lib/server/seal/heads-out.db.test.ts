import { once } from 'node:events';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import type { SignedHead } from '../../core/seal/proof.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { byMail, byWitness } from './outlets.ts';
import { readHead } from './read-seal.ts';
import { sendHeads, type Outlet } from './send-heads.ts';
import { newSealKey, sealAll } from './testing/seal-all.ts';

// Heads sent out: to a mailbox, and to a witness that runs as its own program.
let world: World;
let witness: ChildProcess;
let url = '';
const folder = mkdtempSync(join(tmpdir(), 'earmark-witness-'));
const kept = join(folder, 'witness.jsonl');
const key = newSealKey();
let serials = 0;
let told = '';

/** Books something, seals it, and gives the head that comes of it. */
async function nextHead(): Promise<SignedHead> {
  await world.receive('SER', [{ serial: `H-${++serials}` }]);
  await sealAll(world.sql, key);
  return (await readHead(world.sql))!;
}
const witnessed = (): SignedHead[] =>
  readFileSync(kept, 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as SignedHead);

beforeAll(async () => {
  world = await makeWorld();
  const run = fileURLToPath(new URL('../../../../scripts/run.mjs', import.meta.url));
  witness = spawn(process.execPath, [run, 'scripts/witness.ts', kept, '0'], {
    cwd: fileURLToPath(new URL('../../../../', import.meta.url))
  });
  url = await new Promise<string>((ready, failed) => {
    witness.stdout!.on('data', (said: Buffer) => {
      const found = /http:\S+\//.exec(said.toString());
      if (found) ready(found[0]);
    });
    witness.on('exit', () => failed(new Error('The witness ended.')));
  });
});
afterAll(async () => {
  witness.removeAllListeners('exit');
  const ended = once(witness, 'exit');
  witness.kill();
  await ended;
  // What was stopped does not go on by itself.
  await expect(fetch(url)).rejects.toThrow();
  await world.end();
  rmSync(folder, { recursive: true });
});
beforeEach(() => {
  told = join(folder, `told-${++serials}.json`);
});

test('each head goes to the witness once, and the next goes on from it', async () => {
  const out = [byWitness(world.sql, url)];
  const first = await nextHead();
  expect(await sendHeads(told, [first], out)).toEqual([]);
  const second = await nextHead();
  expect(await sendHeads(told, [first, second], out)).toEqual([]);
  expect(await sendHeads(told, [first, second], out)).toEqual([]);
  expect(witnessed()).toEqual([first, second]);
});

test('where its answer was lost it is sent again, and kept once', async () => {
  const head = await nextHead();
  const before = witnessed().at(-1)!;
  const out = byWitness(world.sql, url);
  await out.send(head, before);
  await out.send(head, before);
  expect(witnessed().filter(({ size }) => size === head.size)).toHaveLength(1);
});

test('a past that was rewritten, signed by our own key or another, the witness does not take', async () => {
  const last = witnessed().at(-1)!;
  const head = await nextHead();
  const rewritten = { ...head, root: '00'.repeat(32) };
  const signature = key.sign(rewritten).toString('base64');
  const out = byWitness(world.sql, url);
  await expect(out.send({ ...rewritten, signature }, last)).rejects.toThrow(
    /409 The ledger of \d+ events does not go on from/
  );
  const other = newSealKey();
  const foreign = {
    ...head,
    key: other.public.toString('base64'),
    signature: other.sign(head).toString('base64')
  };
  await expect(out.send(foreign, last)).rejects.toThrow('409 The head is signed by another key');
  await expect(out.send({ ...head, at: last.at }, last)).rejects.toThrow(
    '409 The head is not signed'
  );
  expect(witnessed().at(-1)).toEqual(last);
});

test('what one outlet does not take stops only what goes to that one, and is sent again', async () => {
  const heads = [await nextHead(), await nextHead()];
  const taken: Record<string, number[]> = { good: [], weak: [] };
  let works = false;
  const outlet = (name: 'good' | 'weak'): Outlet => ({
    name,
    send: async ({ size }) => {
      if (name === 'weak' && size === heads[1]!.size && !works) throw new Error('no line');
      taken[name]!.push(size);
    }
  });
  const out = [outlet('weak'), outlet('good')];
  expect(await sendHeads(told, heads, out)).toEqual(['weak: no line']);
  works = true;
  expect(await sendHeads(told, heads, out)).toEqual([]);
  const sizes = heads.map(({ size }) => size);
  expect(taken).toEqual({ good: sizes, weak: sizes });
});

test('a mail has all that is needed to hold the ledger to it', async () => {
  const mails: { to: string; text: string }[] = [];
  const server = {
    from: 'ledger@brackwater.example',
    send: async (mail: (typeof mails)[number]) => mails.push(mail)
  };
  const head = await nextHead();
  expect(await sendHeads(told, [head], [byMail(server, 'notary@brackwater.example')])).toEqual([]);
  expect(mails).toMatchObject([{ to: 'notary@brackwater.example' }]);
  const line = mails[0]!.text.split('\n').find((one) => one.startsWith('{'))!;
  expect(JSON.parse(line)).toEqual(head);
});
