import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { countSheetPdf } from '$lib/server/stock/papers/count-sheet.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    pdfResponse(await countSheetPdf(db(), params.document), `count-${params.document}.pdf`)
  );
