import { generateKeyPairSync } from 'node:crypto';
import type { Sql } from '../../kernel/db/client.ts';
import { sealKeyOf } from '../seal-key.ts';
import { sealLedger } from '../seal.ts';

/** A key for one test file. */
export const newSealKey = () => sealKeyOf(generateKeyPairSync('ed25519').privateKey);

/** Seals what can be sealed now. @returns whether that is everything */
export async function sealedWhole(sql: Sql, key: ReturnType<typeof newSealKey>): Promise<boolean> {
  await sealLedger(sql, key);
  const [open] = await sql`
    SELECT FROM event e WHERE NOT EXISTS (SELECT FROM seal_leaf l WHERE l.event_id = e.id) LIMIT 1
  `;
  return open === undefined;
}

/** Seals all of it: what other databases of the cluster have under way holds it up for a moment. */
export async function sealAll(sql: Sql, key: ReturnType<typeof newSealKey>): Promise<void> {
  while (!(await sealedWhole(sql, key)));
}

/** All that is made piece by piece, as one text. */
export async function textOf(pieces: Promise<AsyncIterable<string>>): Promise<string> {
  let text = '';
  for await (const piece of await pieces) text += piece;
  return text;
}
