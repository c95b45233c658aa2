import type { Tx } from '../../kernel/db/client.ts';

/** Something that the rows of the ledger say and that cannot be. */
export interface Break {
  law: string;
  what: string;
  expected: string;
  found: string;
}

/** One thing that is proved, in one or a few passes over whole tables. */
export type Proof = (tx: Tx) => Promise<Break[]>;

/** Most breaks that one proof tells. */
export const MOST_BREAKS = 1000;
