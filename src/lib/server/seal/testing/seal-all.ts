import { generateKeyPairSync } from 'node:crypto';
import type { Sql } from '../../kernel/db/client.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { sealKeyOf, type SealKey } from '../seal-key.ts';
import { sealLedger } from '../seal.ts';

/** A key for one test file. */
export const newSealKey = () => sealKeyOf(generateKeyPairSync('ed25519').privateKey);

/** Seals what can be sealed now. @returns whether that is everything */
export async function sealedWhole(sql: Sql, key: SealKey): Promise<boolean> {
  await sealLedger(sql, key);
  const [open] = await sql`
    SELECT FROM event e WHERE NOT EXISTS (SELECT FROM seal_leaf l WHERE l.event_id = e.id) LIMIT 1
  `;
  return open === undefined;
}

/** Seals all of it: what other databases of the cluster have under way holds it up for a moment. */
export async function sealAll(sql: Sql, key: SealKey): Promise<void> {
  while (!(await sealedWhole(sql, key)));
}

/** All that is made piece by piece, as one text. */
export async function textOf(pieces: Promise<AsyncIterable<string>>): Promise<string> {
  let text = '';
  for await (const piece of await pieces) text += piece;
  return text;
}

/** A world with serials, one of them built into a unit that was shipped, all of it sealed. */
export async function sealedWorld(
  key: SealKey
): Promise<{ world: World; received: number; shipped: number }> {
  const world = await makeWorld();
  const { event: received } = await world.receive('SER', [{ serial: 'S1' }, { serial: 'S2' }]);
  await world.receive('LOT', [{ lot: 'L1' }], '10');
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: 'M1', quantity: '1' }],
      inputs: [{ product: 'SER', serial: 'S1', quantity: '1' }]
    }
  ] as never);
  const { event: shipped } = await world.ship([
    { product: 'MADE', marks: [{ serial: 'M1' }] }
  ] as never);
  await sealAll(world.sql, key);
  return { world, received: received.id, shipped: shipped.id };
}
