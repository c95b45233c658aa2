import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readUpload } from '$lib/server/http/read-upload.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ImportQuery, TemplateQuery } from '$lib/server/exchange/schemas.ts';
import { IMPORTS, importOf, type Import } from '$lib/server/imports.ts';
import { requireOneRight } from '$lib/server/kernel/rights.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { MOST_BYTES } from '$lib/server/kernel/tables/read-table.ts';
import { fileResponse, writeTable } from '$lib/server/kernel/tables/write-table.ts';

/** @throws Problem 404 naming the tables there are */
function known(kind: string): Import {
  const found = importOf(kind);
  if (found) return found;
  throw new Problem(404, 'There is no such table', [
    {
      code: 'request.malformed',
      path: 'kind',
      message: `Use one of ${Object.keys(IMPORTS).join(', ')}.`
    }
  ]);
}

/** An empty table with the headings of its kind, to be filled. */
export const GET: RequestHandler = ({ params, url, locals }) =>
  answering(async () => {
    const { format } = readQuery(url, TemplateQuery);
    const columns = await known(params.kind).columns(db(), locals.actor!);
    return fileResponse(await writeTable(params.kind, format, columns, []));
  });

/**
 * A file of records: the report row by row and, where asked, the writing. The body is the file
 * itself, CSV or XLSX.
 */
export const POST: RequestHandler = ({ params, request, url, locals }) =>
  answering(async () => {
    const { mode, document } = readQuery(url, ImportQuery);
    const table = known(params.kind);
    const actor = locals.actor!;
    requireOneRight(actor, table.rights);
    const file = await readUpload(request, MOST_BYTES, {
      what: 'file',
      path: '',
      message: 'A file of at most 5 MB is taken. Send it in parts.'
    });
    const named = document ?? `OPENING-${today()}`;
    return jsonResponse(await table.run({ sql: db(), actor, file, mode, document: named }));
  });
