import type { Break } from '../src/lib/server/ledger/proofs/proof.ts';
import type { SealBreak } from '../src/lib/server/seal/verify-ledger.ts';

/** A row that breaks a law, in a line. */
export const sayBreak = ({ law, what, expected, found }: Break): string =>
  `${law}: ${what} — expected ${expected}, found ${found}`;

/** What is not as it was sealed, in a line. */
export const saySealBreak = ({ event, head, says }: SealBreak): string =>
  event === undefined ? `The head of ${head} events: ${says}.` : `Event ${event} is ${says}.`;
