import type { Sql, Tx } from '../kernel/db/client.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import { hostsGiveBackWhatWentIn } from './proofs/hosts.ts';
import {
  changesFollowEachOther,
  marksSayTheirLastChange,
  movementsFitTheirMarks,
  serialsAreWithinLots,
  statesHaveADecision
} from './proofs/marks.ts';
import { ordersAreAsBooked, ordersWaitWhileTheyLack } from './proofs/orders.ts';
import {
  cartonsHoldWhatWasPacked,
  cartonsLeftAsTold,
  noMoreBackThanLeft,
  returnsNameTheirShipments
} from './proofs/packages.ts';
import type { Break, Proof } from './proofs/proof.ts';
import {
  carryingKeepsAmounts,
  kindsMoveTheirWay,
  nothingImpossibleLies,
  productsBalance,
  stockIsItsMovements,
  stockSaysItsMark
} from './proofs/stock.ts';
import {
  repacksKeepWeight,
  reversalsMirror,
  tiesAreTakenBackByTheirs,
  tiesAreTheirMovements,
  tiesHaveOutputs
} from './proofs/ties.ts';

/** All that is proved of the ledger, from its rows alone. */
export const PROOFS: readonly Proof[] = [
  stockIsItsMovements,
  stockSaysItsMark,
  nothingImpossibleLies,
  carryingKeepsAmounts,
  kindsMoveTheirWay,
  productsBalance,
  tiesAreTheirMovements,
  tiesHaveOutputs,
  repacksKeepWeight,
  reversalsMirror,
  tiesAreTakenBackByTheirs,
  hostsGiveBackWhatWentIn,
  marksSayTheirLastChange,
  changesFollowEachOther,
  statesHaveADecision,
  serialsAreWithinLots,
  movementsFitTheirMarks,
  cartonsHoldWhatWasPacked,
  cartonsLeftAsTold,
  noMoreBackThanLeft,
  returnsNameTheirShipments,
  ordersAreAsBooked,
  ordersWaitWhileTheyLack
];

/**
 * Every break of every law, at most the first thousand of each.
 * @param tx a transaction that sees one state of the ledger
 */
export const findBreaks = (tx: Tx): Promise<Break[]> => breaksFound([tx]);

/**
 * Each connection takes the next proof until there is none.
 * @param lanes transactions that see the same
 */
async function breaksFound(lanes: readonly Tx[]): Promise<Break[]> {
  const found: Break[][] = [];
  const next = PROOFS.entries();
  await Promise.all(
    lanes.map(async (tx) => {
      // Passes over whole tables: compiling them costs more than it saves.
      await tx`SELECT set_config('jit', 'off', true), set_config('work_mem', '64MB', true)`;
      for (const [at, proof] of next) found[at] = await proof(tx);
    })
  );
  return found.flat();
}

/**
 * Proves the ledger from its rows alone, in one snapshot seen by two connections, without the code
 * that booked them: stock, balances of products, ties, hosts, marks, cartons.
 */
export const reconcile = (
  sql: Sql
): Promise<{ marks: number; places: number; proofs: number; breaks: Break[] }> =>
  inSnapshot(sql, async (tx) => {
    const [counts] = await tx<[{ marks: number; places: number }]>`
      SELECT (SELECT count(*) FROM mark)::int AS marks, (SELECT count(*) FROM stock)::int AS places
    `;
    const [{ seen }] = await tx<[{ seen: string }]>`SELECT pg_export_snapshot() AS seen`;
    const breaks = await inSnapshot(sql, async (beside) => {
      // A name PostgreSQL just gave; it takes no parameter here.
      await beside.unsafe(`SET TRANSACTION SNAPSHOT '${seen}'`);
      return breaksFound([tx, beside]);
    });
    return { ...counts, proofs: PROOFS.length, breaks };
  });
