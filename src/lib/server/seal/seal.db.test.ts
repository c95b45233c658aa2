import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { beginsAs, includes } from '../../core/seal/verify.ts';
import { leafHash } from '../../core/seal/tree.ts';
import type { Tx } from '../kernel/db/client.ts';
import { problemOf, refusalsOf } from '../testing/caught.ts';
import { goodsReturn } from '../shipping/kinds.ts';
import { amend, move } from '../stock/kinds.ts';
import { quality } from '../quality/kinds.ts';
import type { World } from '../testing/world.ts';
import { leavesOf } from './leaves.ts';
import { proveEvent, readCheckpoint, readHead } from './read-seal.ts';
import { sealLedger } from './seal.ts';
import { newSealKey, sealAll, sealedWorld, textOf } from './testing/seal-all.ts';
import { isHeadSigned } from '../../core/seal/check-proof.ts';
import type { ProofOfMany } from '../../core/seal/proof.ts';
import { proveMany } from './prove-many.ts';
import { verifyLedger } from './verify-ledger.ts';

const key = newSealKey();
/** The public key as heads name it. */
const mine = key.public.toString('base64');
const bytes = (hex: string): Uint8Array => Buffer.from(hex, 'hex');
let world: World;
let received = 0;
let shipped = 0;
beforeAll(async () => {
  ({ world, received, shipped } = await sealedWorld(key));
  await world.owner`INSERT INTO person (login, name, roles) VALUES ('other', 'Other', '{}')`;
});
afterAll(() => world.end());

const verified = () => verifyLedger(world.sql, mine);

test('every event is sealed once, in the order it was committed', async () => {
  const leaves = await world.sql<{ position: number; event: number }[]>`
    SELECT position, event_id AS event FROM seal_leaf ORDER BY position
  `;
  expect(leaves.map((leaf) => leaf.position)).toEqual(leaves.map((_, at) => at));
  expect(leaves.map((leaf) => leaf.event)).toEqual(
    leaves.map((leaf) => leaf.event).toSorted((a, b) => a - b)
  );
  expect(await sealLedger(world.sql, key)).toBe(0);
  expect(await verified()).toMatchObject({ events: leaves.length, breaks: [] });
});

test('a proof shows an event to whoever has nothing of ours but the root', async () => {
  const proof = await proveEvent(world.sql, shipped);
  const leaf = createHash('sha256').update(Buffer.of(0)).update(proof.entry).digest();
  const { head, position, path } = proof;
  expect(includes(leaf, position, head.size, path.map(bytes), bytes(head.root))).toBe(true);
  expect(JSON.parse(proof.entry)).toMatchObject({ id: shipped, kind: 'ship', moves: [{}] });
  expect(isHeadSigned(head)).toBe(true);
  expect(isHeadSigned({ ...head, size: head.size + 1 })).toBe(false);
});

test('what is booked later changes nothing that was sealed, and goes on from it', async () => {
  const before = (await readHead(world.sql))!;
  const then = await proveEvent(world.sql, received);
  await world.book(amend, {
    document: 'A',
    reason: 'misread',
    lines: [{ product: 'SER', serial: 'S2', to: { number: 'S2-NEW', supplierNumber: 'THEIRS' } }]
  });
  const lines = [{ product: 'MADE', serial: 'M1' }];
  await world.book(goodsReturn, { document: 'R', place: 'RACK', lines });
  const marks = [{ product: 'MADE', serial: 'M1' }];
  const released = { document: 'Q', kind: 'release', reason: 'looked at', marks };
  await world.book(quality, released as never);
  await world.book(move, {
    document: 'MV',
    kind: 'move',
    lines: [{ product: 'MADE', from: 'RACK', to: 'DOCK', serial: 'M1' }]
  } as never);
  await sealAll(world.sql, key);
  expect((await proveEvent(world.sql, received)).entry).toBe(then.entry);
  const { head, consistency } = await readCheckpoint(world.sql, before.size);
  const [past, now] = [before, head].map(({ size, root }) => ({ size, root: bytes(root) }));
  expect(beginsAs(past!, now!, consistency!.map(bytes))).toBe(true);
  expect((await verified()).breaks).toEqual([]);
});

test('an event whose transaction is still open holds back those after it, and is passed over never', async () => {
  let end = (): void => {};
  const held = new Promise<void>((go) => (end = go));
  let begun = (): void => {};
  const open = new Promise<void>((go) => (begun = go));
  const late = world.sql.begin(async (tx) => {
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES ('gain', 'LATE', now(), ${world.actor.personId}, 'test')
      RETURNING id
    `;
    begun();
    await held;
    return event!.id;
  });
  await open;
  const after = (await world.receive('SER', [{ serial: 'AFTER' }])).event.id;
  expect(await sealLedger(world.sql, key)).toBe(0);
  expect(await refusalsOf(proveEvent(world.sql, after))).toEqual(['409 seal.waiting event']);
  end();
  const id = await late;
  await sealAll(world.sql, key);
  const order = await world.sql<{ event: number }[]>`
    SELECT event_id AS event FROM seal_leaf WHERE event_id = ANY(${[id, after]}) ORDER BY position
  `;
  expect(order.map((row) => row.event)).toEqual([id, after]);
});

test('twenty who seal at once seal each event once', async () => {
  for (let n = 0; n < 5; n++) await world.receive('SER', [{ serial: `MANY-${n}` }]);
  await Promise.all(Array.from({ length: 20 }, () => sealLedger(world.sql, key)));
  await sealAll(world.sql, key);
  expect((await verified()).breaks).toEqual([]);
});

/** What the owner of the database does past every law, and takes back. */
async function asOwner(work: (tx: Tx) => Promise<void>): Promise<void> {
  const takenBack = new Error('taken back');
  const done = world.owner.begin(async (tx) => {
    await tx`SET LOCAL session_replication_role = replica`;
    await work(tx);
    throw takenBack;
  });
  await done.catch((error: unknown) => {
    if (error !== takenBack) throw error;
  });
}

// What even the owner of the database cannot do unseen.
const PAST: [string, string, string[]][] = [
  ['a document', `UPDATE event SET document = 'OTHER' WHERE id = $1`, ['document']],
  [
    'who booked it',
    `UPDATE event SET booked_by = (SELECT max(id) FROM person) WHERE id = $1`,
    ['booked_by']
  ],
  ['a quantity', `UPDATE movement SET quantity = 7 WHERE event_id = $1`, ['moves']],
  [
    'a number',
    `UPDATE mark SET number = 'OTHER' WHERE birth_event = $1 AND number = 'S1'`,
    ['born']
  ],
  [
    'a row too many',
    `INSERT INTO movement (event_id, mark_id, place_id, quantity) SELECT event_id, mark_id, place_id, 1 FROM movement WHERE event_id = $1 LIMIT 1`,
    ['moves']
  ],
  [
    'a row less',
    `DELETE FROM movement WHERE id = (SELECT min(id) FROM movement WHERE event_id = $1)`,
    ['moves']
  ]
];
test.each(PAST)('%s that is altered is found, and named', (_, text, parts) =>
  asOwner(async (tx) => {
    await tx.unsafe(text, [received]);
    const { breaks } = await verifyLedger(tx, mine);
    expect(breaks).toEqual([{ event: received, says: `not what was sealed: ${parts.join(', ')}` }]);
    const problem = await problemOf(proveEvent(tx, received));
    expect(problem.errors[0]).toMatchObject({ code: 'seal.broken' });
    expect(problem.errors[0]!.message).toContain(parts[0]!);
  })
);

test('altered with its seal too, the head no longer fits', () =>
  asOwner(async (tx) => {
    await tx`UPDATE event SET document = 'OTHER' WHERE id = ${received}`;
    const [leaf] = await leavesOf(tx, [received]);
    const hash = Buffer.from(leafHash(Buffer.from(leaf!.text)));
    await tx`
      UPDATE seal_node n
      SET hash = ${hash}
      FROM seal_leaf l
      WHERE l.event_id = ${received} AND n.level = 0 AND n.index = l.position
    `;
    const { breaks } = await verifyLedger(tx, mine);
    expect(breaks.length).toBeGreaterThan(0);
    expect(breaks.every((one) => one.head !== undefined)).toBe(true);
  }));

test('signed by another key than ours, it says so', async () => {
  const other = newSealKey();
  const { breaks } = await verifyLedger(world.sql, other.public.toString('base64'));
  expect(breaks[0]).toMatchObject({ says: 'it was not signed by our key' });
});

test('the application can add to the seal and change nothing of it', async () => {
  for (const table of ['seal_leaf', 'seal_node', 'seal_head']) {
    const changed = world.sql.unsafe(`DELETE FROM ${table}`);
    await expect(changed).rejects.toMatchObject({ code: '42501' });
  }
});

test('a proof file is checked by a script that has nothing of ours, and by npm run verify', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'earmark-proof-'));
  const script = fileURLToPath(new URL('../../../../docs/verify-proof.mjs', import.meta.url));
  const ours = fileURLToPath(new URL('../../../../scripts/run.mjs', import.meta.url));
  const checked = (proof: object, ...more: string[]) => {
    const file = join(folder, 'proof.json');
    writeFileSync(file, JSON.stringify(proof));
    const alone = spawnSync(process.execPath, [script, file, ...more], { encoding: 'utf8' });
    const env = { ...process.env, EARMARK_DATA: folder, EARMARK_SEAL_KEY: '' };
    const own = spawnSync(process.execPath, [ours, 'scripts/verify.ts', file], {
      ...{ encoding: 'utf8', env }
    });
    return [alone.status, own.status];
  };
  try {
    const proof = await proveEvent(world.sql, shipped);
    expect(checked(proof)).toEqual([0, 0]);
    expect(checked({ ...proof, entry: proof.entry.replace('"ship"', '"gain"') })).toEqual([1, 1]);
    expect(checked({ ...proof, position: proof.position + 1 })).toEqual([1, 1]);
    expect(checked({ ...proof, head: { ...proof.head, at: '2001-01-01T00:00:00.000Z' } })).toEqual([
      1, 1
    ]);
    expect(checked(proof, Buffer.alloc(32).toString('base64'))).toEqual([1, 0]);
    const many = JSON.parse(
      await textOf(proveMany(world.sql, 'all', [received, shipped]))
    ) as ProofOfMany;
    expect(checked(many)).toEqual([0, 0]);
    expect(checked({ ...many, hashes: many.hashes.toReversed() })).toEqual([1, 1]);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test('a head kept elsewhere finds a ledger that was rewritten and signed anew by our own key', async () => {
  const kept = (await readHead(world.sql))!;
  expect((await verifyLedger(world.sql, mine, [kept])).breaks).toEqual([]);
  const other = { ...kept, root: '00'.repeat(32) };
  const { breaks } = await verifyLedger(world.sql, mine, [other]);
  expect(breaks[0]).toMatchObject({ head: kept.size, says: expect.stringContaining('come to') });
});
