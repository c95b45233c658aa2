import type postgres from 'postgres';
import type { Tx } from './client.ts';

/** What was asked, as a list for each column; all of the same length. */
export type Columns<Row> = { [Name in keyof Row]: Row[Name][] };

/**
 * Many rows as one that has a list for each column: ten thousand rows one by one cost more on their
 * way than in the database. They come as JSON: ask for numerics as text; instants come as ISO texts.
 * @param names the query's columns
 * @param query what is asked; its order is kept
 */
export async function inColumns<Row extends object>(
  tx: Tx,
  names: readonly (keyof Row & string)[],
  query: postgres.PendingQuery<postgres.Row[]>
): Promise<Columns<Row>> {
  const lists = (names as readonly string[])
    .map((name) => tx`coalesce(json_agg(q.${tx(name)}), '[]') AS ${tx(name)}`)
    .reduce((all, one) => tx`${all}, ${one}`);
  const [columns] = await tx<[Columns<Row>]>`SELECT ${lists} FROM (${query}) q`;
  return columns;
}
