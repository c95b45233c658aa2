import type { RequestHandler } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { answering } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ExportQuery } from '$lib/server/exchange/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { exportBills } from '$lib/server/catalogue/import-bills.ts';
import { exportProducts } from '$lib/server/catalogue/import-products.ts';
import { RECORD_COLUMNS, readRecordSheet } from '$lib/server/exchange/record-sheet.ts';
import { writeLedger } from '$lib/server/exchange/export-ledger.ts';
import { fileResponse, writeTable } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params, url, locals }) =>
  answering(async () => {
    const { format, product, ...which } = readQuery(url, ExportQuery);
    if (params.kind === 'products') return fileResponse(await exportProducts(db(), format));
    if (params.kind === 'bills') return fileResponse(await exportBills(db(), format, product));
    if (params.kind === 'record-sheet')
      return fileResponse(
        await writeTable(
          `record-sheet${which.number ? `-${which.number}` : ''}`,
          format,
          RECORD_COLUMNS,
          await readRecordSheet(db(), which)
        )
      );
    if (params.kind === 'ledger')
      return fileResponse(
        await writeLedger(
          db(),
          which,
          url.searchParams.get('as') === 'epcis' ? 'epcis' : format,
          mayDo(locals.actor!.roles, 'see.costs')
        )
      );
    return notFound('table', params.kind);
  });
