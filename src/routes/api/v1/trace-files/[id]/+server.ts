import type { RequestHandler } from './$types';
import { epcisDocument, toEpcis } from '$lib/core/epcis/write';
import { answering, streamOf } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { eventHash } from '$lib/server/epcis/event-hash';
import { OUR_CONTEXT } from '$lib/server/epcis/query';
import { ownBase } from '$lib/server/own-base';
import { readLedgerEvents } from '$lib/server/reading/ledger-events';
import { traceJson, traceMarks } from '$lib/server/reading/trace';
import { readCut } from '$lib/server/reading/trace-cut';
import { readSet } from '$lib/server/reading/trace-roots';
import { traceTable } from '$lib/server/reading/trace-table';
import { rowId } from '$lib/server/row-id';
import { fileResponse, writeTable } from '$lib/server/tables/write-table';

/** A trace as a file: `format` csv, xlsx, json or epcis; cut as its screen is. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const set = params.id.startsWith('s') ? rowId(params.id.slice(1)) : null,
      id = rowId(params.id);
    const roots = set !== null ? (await readSet(db(), set))?.marks : id !== null ? [id] : undefined;
    const direction = url.searchParams.get('direction') === 'upstream' ? 'upstream' : 'downstream';
    const format = url.searchParams.get('format');
    if (format === 'json') {
      const pieces =
        (roots && (await traceJson(db(), roots, direction, readCut(url)))) ??
        notFound('mark', params.id);
      return fileResponse({
        body: streamOf(pieces),
        type: 'application/json',
        name: `trace-${params.id}-${direction}.json`
      });
    }
    const trace =
      (roots && (await traceMarks(db(), roots, direction, readCut(url)))) ??
      notFound('mark', params.id);
    const name = `trace-${trace.root.product}-${trace.root.number ?? 'unmarked'}-${direction}`;
    if (format === 'epcis') {
      const { events, marks } = await readLedgerEvents(
        db(),
        trace.events.map((event) => event.id)
      );
      const written = events
        .flatMap((event) => toEpcis(event, marks, ownBase()))
        .map((event) => ({ eventID: eventHash(event, OUR_CONTEXT), ...event }));
      return fileResponse({
        body: new TextEncoder().encode(
          JSON.stringify(epcisDocument(written, new Date().toISOString()))
        ),
        type: 'application/ld+json',
        name: `${name}.jsonld`
      });
    }
    const { columns, rows } = await traceTable(db(), trace);
    return fileResponse(await writeTable(name, format === 'csv' ? 'csv' : 'xlsx', columns, rows));
  });
