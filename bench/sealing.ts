import { generateKeyPairSync, randomBytes } from 'node:crypto';
import { book } from '../src/lib/server/ledger/book.ts';
import { receive } from '../src/lib/server/receiving/kinds.ts';
import { actorOf } from './actor.ts';
import { product } from './store.ts';
import { sealLedger } from '../src/lib/server/seal/seal.ts';
import { sealKeyOf } from '../src/lib/server/seal/seal-key.ts';
import { verifyLedger } from '../src/lib/server/seal/verify-ledger.ts';
import type { Bench } from './bench.ts';
import { compare, timed, type Measured } from './measure.ts';
import { SEALED_TABLES } from '../src/lib/server/seal/sealed-rows.ts';
import { copyRows } from '../src/lib/server/trace/engine/copy-rows.ts';

/** Receipts of a turn, one after the other, and how often what they booked is sealed. */
const RECEIPTS = 400;
const SEAL_EVERY_MS = 1_000;
const TURNS = 9;

/**
 * Receipts of one serial beside the sealer, against the same without. It seals ten times as often
 * here as in the application, so that every turn has some of it; all that is booked is sealed.
 */
export async function sealBeside(bench: Bench): Promise<Measured> {
  const key = sealKeyOf(generateKeyPairSync('ed25519').privateKey);
  await product(bench, 'SEALED');
  await sealLedger(bench.app, key, { whole: true });
  const receipts = async (): Promise<void> => {
    for (let n = 0; n < RECEIPTS; n++) await receiveOne(bench);
  };
  const beside = async (): Promise<void> => {
    let sealing = Promise.resolve<unknown>(0);
    const timer = setInterval(() => {
      sealing = sealLedger(bench.app, key, { whole: false });
    }, SEAL_EVERY_MS);
    await receipts();
    clearInterval(timer);
    await sealing;
  };
  const alone = async (): Promise<void> => receipts();
  const answer = await compare('seal-beside', RECEIPTS, beside, alone, TURNS);
  const ms = await timed(() => sealLedger(bench.app, key, { whole: false }));
  console.log(`               what the last turn booked is sealed in ${Math.round(ms)} ms`);
  return answer;
}

async function receiveOne(bench: Bench): Promise<void> {
  const serial = `SEALED-${randomBytes(6).toString('hex')}`;
  await book(bench.app, receive, actorOf(bench.world), serial, {
    ...{ document: serial, supplier: 'X' },
    lines: [{ product: 'SEALED', place: 'P', quantity: '1', marks: [{ serial }] }]
  } as never);
}

/** Every event against what was sealed, against copying every row of an event out of the database. */
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
    () => readSealedRows(bench),
    4
  );
}

const readSealedRows = ({ app }: Bench): Promise<unknown> =>
  app.begin('READ ONLY', async (tx) => {
    for (const table of SEALED_TABLES) await copyRows(tx, `SELECT * FROM ${table}`, () => {});
  });
