import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { ExportQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { exportBills } from '$lib/server/imports/bills';
import { exportProducts } from '$lib/server/imports/products';
import { RECORD_COLUMNS, readRecordSheet } from '$lib/server/reading/record-sheet';
import { writeLedger } from '$lib/server/imports/ledger';
import { fileResponse, writeTable } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params, url }) =>
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
        await writeLedger(db(), which, url.searchParams.get('as') === 'epcis' ? 'epcis' : format)
      );
    return notFound('table', params.kind);
  });
