// How long it takes to prove a ledger against how long it takes to read its rows.
import type { Bench } from './bench.ts';
import { readAllRows } from './tracing.ts';
import { compare, timed, type Measured } from './measure.ts';
import { PROOFS, reconcile } from '../src/lib/server/ledger/reconcile.ts';

/** All proofs of reconcile, against copying every row of the ledger out of the database. */
export async function prove(bench: Bench): Promise<Measured> {
  await sayEach(bench);
  return await compare(
    'reconcile',
    bench.world.links,
    async () => {
      const { breaks } = await reconcile(bench.app);
      if (breaks.length > 0) throw new Error(`The bench's world is broken: ${breaks[0]!.law}`);
    },
    () => readAllRows(bench.app),
    2
  );
}

/** Milliseconds each proof takes, for whoever makes them faster. */
async function sayEach({ app }: Bench): Promise<void> {
  const said: string[] = [];
  for (const proof of PROOFS) {
    const ms = await timed(() => app.begin((tx) => proof(tx)));
    said.push(`${proof.name} ${Math.round(ms)}`);
  }
  console.log(`               ms a proof: ${said.join(', ')}`);
}
