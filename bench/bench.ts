import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import type { BenchWorld } from './world.ts';
/** `app`: the application's connection; `owner`: the owner's, for the bare side. */
export interface Bench {
  app: Sql;
  owner: Sql;
  world: BenchWorld;
  appUrl: string;
  ownerUrl: string;
  /** Where the index of the world is kept. */ indexFile: string;
}
