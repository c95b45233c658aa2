import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { transferNotePdf } from '$lib/server/stock/papers/transfer-note.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    pdfResponse(await transferNotePdf(db(), params.document), `transfer-${params.document}.pdf`)
  );
