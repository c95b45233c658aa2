import { generateKeyPairSync } from 'node:crypto';
import { sealLedger } from '../src/lib/server/seal/seal.ts';
import { sealKeyOf } from '../src/lib/server/seal/seal-key.ts';
import { verifyLedger } from '../src/lib/server/seal/verify-ledger.ts';
import type { Bench } from './bench.ts';
import { compare, timed, type Measured } from './measure.ts';
import { readAllRows } from './tracing.ts';

/** Every event against what was sealed, against copying every row of the ledger out of the database. */
export async function verifyAll(bench: Bench): Promise<Measured> {
  const key = sealKeyOf(generateKeyPairSync('ed25519').privateKey);
  let sealed = 0;
  const ms = await timed(async () => {
    sealed = await sealLedger(bench.app, key, { whole: true });
  });
  console.log(
    `               sealed ${sealed} events, ${bench.world.links} links, in ${Math.round(ms)} ms`
  );
  return await compare(
    'verify',
    bench.world.links,
    async () => {
      const { breaks } = await verifyLedger(bench.app);
      if (breaks.length > 0)
        throw new Error(`The bench's world is not as sealed: ${breaks[0]!.says}`);
    },
    () => readAllRows(bench.app),
    2
  );
}
