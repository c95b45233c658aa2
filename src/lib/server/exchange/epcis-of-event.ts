import { epcisDocument } from '../../core/exchange/write.ts';
import type { Db } from '../kernel/db/client.ts';
import { notFound } from '../kernel/problem.ts';
import type { Written } from '../kernel/tables/write-table.ts';
import { readLedgerEvents } from './ledger-events.ts';
import { tellEvent } from './write-events.ts';

/**
 * An event as an EPCIS 2.0 document, with what else is told with it.
 * @param ids of the event and of what is told with it, such as what was packed into the cartons that left
 * @throws Problem 404
 */
export async function epcisOfEvent(db: Db, id: number, ids: readonly number[]): Promise<Written> {
  const { events, marks } = await readLedgerEvents(db, ids);
  const event = events.find((one) => one.id === id) ?? notFound('event', String(id));
  const told = events.flatMap((one) => tellEvent(one, marks));
  const document = epcisDocument(told, new Date().toISOString());
  return {
    body: new TextEncoder().encode(JSON.stringify(document, null, 2)),
    type: 'application/ld+json',
    name: `${event.kind.replace(' ', '-')}-${event.document}.jsonld`
  };
}
