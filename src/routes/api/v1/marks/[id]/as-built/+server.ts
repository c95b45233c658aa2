import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { AsBuiltQuery } from '$lib/server/making/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { asBuiltPdf } from '$lib/server/trace/papers/as-built.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { format, as, day } = readQuery(url, AsBuiltQuery);
    const asked = day === undefined ? { as } : ({ as: 'is', day } as const);
    const id = rowId(params.id);
    const record =
      (id === null ? null : await readAsBuilt(db(), id, asked)) ?? notFound('mark', params.id);
    if (format === 'json') return jsonResponse(record);
    return pdfResponse(
      await asBuiltPdf(record, asked, new Date()),
      `${asked.as === 'is' ? 'as-is' : 'as-built'}-${record.mark.product}-${record.mark.number ?? 'unmarked'}.pdf`
    );
  });
