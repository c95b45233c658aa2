import { correctionOf } from '../../core/exchange/correction.ts';
import type { NamedMark } from '../../core/exchange/identifiers.ts';
import {
  epcisDocument,
  toEpcis,
  type EpcisEvent,
  type LedgerEvent
} from '../../core/exchange/write.ts';
import type { Db } from '../kernel/db/client.ts';
import type { Written } from '../kernel/tables/write-table.ts';
import { ownBase } from '../kernel/own-base.ts';
import { eventHash } from './event-hash.ts';
import { readLedgerEvents } from './ledger-events.ts';

export const OUR_CONTEXT = { earmark: 'https://earmark.example/epcis/' };

const idOf = (event: EpcisEvent): string => eventHash(event, OUR_CONTEXT);
const named = (event: EpcisEvent): EpcisEvent => ({ eventID: idOf(event), ...event });

/**
 * An event of the ledger as EPCIS events under their hash identifiers. A reversal declares what was
 * told wrong, names what stands in its place, and tells that.
 */
export function tellEvent(event: LedgerEvent, marks: ReadonlyMap<number, NamedMark>): EpcisEvent[] {
  if (event.kind !== 'reversal') return toEpcis(event, marks, ownBase()).map(named);
  const { wrong, right } = correctionOf(event, marks, ownBase(), idOf);
  const correctiveEventIDs = right.map(idOf);
  const errorDeclaration = {
    ...{ declarationTime: event.bookedAt, reason: 'incorrect_data' },
    ...(correctiveEventIDs.length > 0 ? { correctiveEventIDs } : {})
  };
  return [...wrong.map((one) => ({ ...named(one), errorDeclaration })), ...right.map(named)];
}

/** These events of the ledger as an EPCIS 2.0 document. */
export async function writeEvents(db: Db, ids: readonly number[]): Promise<object> {
  const { events, marks } = await readLedgerEvents(db, ids);
  const told = events.flatMap((event) => tellEvent(event, marks));
  return epcisDocument(told, new Date().toISOString());
}

/** The same as a file. @param name without its ending */
export const eventsFile = async (
  db: Db,
  ids: readonly number[],
  name: string
): Promise<Written> => ({
  body: new TextEncoder().encode(JSON.stringify(await writeEvents(db, ids))),
  type: 'application/ld+json',
  name: `${name}.jsonld`
});
