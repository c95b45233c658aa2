import type { RequestHandler } from './$types';
import { epcisEventsApart, tableApart } from '$lib/server/files-apart.ts';
import { answering, streamOf } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { traceJson, traceMarks } from '$lib/server/trace/trace.ts';
import { readCutFrom } from '$lib/server/trace/trace-cut.ts';
import { readSet } from '$lib/server/trace/trace-roots.ts';
import { traceTable } from '$lib/server/trace/trace-table.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';

/** A trace as a file: `format` csv, xlsx, json or epcis; cut as its screen is. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const set = params.id.startsWith('s') ? rowId(params.id.slice(1)) : null,
      id = rowId(params.id);
    const roots = set !== null ? (await readSet(db(), set))?.marks : id !== null ? [id] : undefined;
    const direction = url.searchParams.get('direction') === 'upstream' ? 'upstream' : 'downstream';
    const format = url.searchParams.get('format');
    const cut = roots ? await readCutFrom(db(), url, roots) : {};
    if (format === 'json') {
      const pieces =
        (roots && (await traceJson(db(), roots, direction, cut))) ?? notFound('mark', params.id);
      return fileResponse({
        body: streamOf(pieces),
        type: 'application/json',
        name: `trace-${params.id}-${direction}.json`
      });
    }
    const trace =
      (roots && (await traceMarks(db(), roots, direction, cut))) ?? notFound('mark', params.id);
    const name = `trace-${trace.root.product}-${trace.root.number ?? 'unmarked'}-${direction}`;
    if (format === 'epcis') {
      const ids = trace.events.map((event) => event.id);
      return fileResponse(await epcisEventsApart(ids, name));
    }
    const { columns, rows } = await traceTable(db(), trace);
    return fileResponse(await tableApart(name, format === 'csv' ? 'csv' : 'xlsx', columns, rows));
  });
