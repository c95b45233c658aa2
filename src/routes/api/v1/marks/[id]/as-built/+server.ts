import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { AsBuiltQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { asBuiltPdf } from '$lib/server/documents/as-built';
import { readAsBuilt } from '$lib/server/reading/as-built';
import { rowId } from '$lib/server/row-id';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { format } = readQuery(url, AsBuiltQuery);
    const id = rowId(params.id);
    const record =
      (id === null ? null : await readAsBuilt(db(), id)) ?? notFound('mark', params.id);
    if (format === 'json') return jsonResponse(record);
    return fileResponse(
      {
        body: await asBuiltPdf(record, new Date()),
        type: 'application/pdf',
        name: `as-built-${record.mark.product}-${record.mark.number ?? 'unmarked'}.pdf`
      },
      true
    );
  });
