import type { ProvenEvent, SignedHead } from '../../core/seal/proof.ts';
import { inclusionProof } from '../../core/seal/tree.ts';
import type { Db } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { leavesOf } from './leaves.ts';
import { hexOf, withNodes } from './nodes.ts';
import { readHead } from './read-seal.ts';

/** Most events of one file. */
const MOST_EVENTS = 50_000;
/** So many are read and written at a time, so that nobody else waits. */
const AT_ONCE = 250;

interface Place {
  event: number;
  position: number;
}

/**
 * What shows that all these events are sealed, as the pieces of one JSON document. An event that
 * was altered since is in it as it stands: whoever checks the file sees that it does not hold.
 * @param of what rests on them, in words
 * @throws Problem 422 where they are more than one file takes, or none
 */
export async function proveMany(
  db: Db,
  of: string,
  events: readonly number[]
): Promise<AsyncGenerator<string>> {
  if (events.length === 0 || events.length > MOST_EVENTS) throw tooMany(events.length);
  const head = (await readHead(db)) ?? notFound('sealed event', 'yet');
  const places = await db<Place[]>`
    SELECT event_id AS event, position
    FROM seal_leaf
    WHERE event_id = ANY(${events as number[]}) AND position < ${head.size}
    ORDER BY position
  `;
  return pieces(db, of, head, places);
}

async function* pieces(
  db: Db,
  of: string,
  head: SignedHead,
  places: readonly Place[]
): AsyncGenerator<string> {
  const hashes = new Map<string, number>();
  yield `{"of":${JSON.stringify(of)},"head":${JSON.stringify(head)},"events":[`;
  for (let from = 0; from < places.length; from += AT_ONCE) {
    const some = await proveSome(db, head, places.slice(from, from + AT_ONCE), hashes);
    yield (from > 0 ? ',' : '') + some.map((one) => JSON.stringify(one)).join(',');
  }
  yield `],"hashes":${JSON.stringify([...hashes.keys()])}}\n`;
}

/** @param hashes those of the file until now by their place, added to */
async function proveSome(
  db: Db,
  head: SignedHead,
  places: readonly Place[],
  hashes: Map<string, number>
): Promise<ProvenEvent[]> {
  const placeOf = (hash: string): number => {
    const known = hashes.get(hash) ?? hashes.size;
    hashes.set(hash, known);
    return known;
  };
  const leaves = await leavesOf(
    db,
    places.map(({ event }) => event)
  );
  const paths = await withNodes(db, (nodeAt) =>
    places.map(({ position }) => inclusionProof(position, head.size, nodeAt))
  );
  return places.map(({ event, position }, at) => ({
    ...{ event, entry: leaves[at]!.text, position },
    path: paths[at]!.map((hash) => placeOf(hexOf(hash)))
  }));
}

const tooMany = (count: number): Problem =>
  new Problem(422, 'That is no proof of one file', [
    {
      code: 'request.malformed',
      path: 'events',
      message:
        count === 0
          ? 'Nothing of it is in the ledger.'
          : `It rests on ${count} events, and ${MOST_EVENTS} go into one file. Ask for less: a shorter time, or one lot of it.`
    }
  ]);
