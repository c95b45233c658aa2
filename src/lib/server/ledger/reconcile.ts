import type { Sql, Tx } from '../kernel/db/client.ts';
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
export async function findBreaks(tx: Tx): Promise<Break[]> {
  // Passes over whole tables: compiling them costs more than it saves.
  await tx`SELECT set_config('jit', 'off', true), set_config('work_mem', '64MB', true)`;
  const breaks: Break[] = [];
  for (const proof of PROOFS) breaks.push(...(await proof(tx)));
  return breaks;
}

/**
 * Proves the ledger from its rows alone, in one snapshot, without the code that booked them: stock,
 * balances of products, ties, hosts, marks, cartons.
 */
export async function reconcile(
  sql: Sql
): Promise<{ marks: number; places: number; proofs: number; breaks: Break[] }> {
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const [counts] = await tx<[{ marks: number; places: number }]>`
      SELECT (SELECT count(*) FROM mark)::int AS marks, (SELECT count(*) FROM stock)::int AS places
    `;
    return { ...counts, proofs: PROOFS.length, breaks: await findBreaks(tx) };
  })) as { marks: number; places: number; proofs: number; breaks: Break[] };
}
