import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { languageAsked } from '$lib/server/http/paper-asked.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { receiptPdf } from '$lib/server/service/papers/receipt.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () =>
    pdfResponse(
      await receiptPdf(db(), params.number, url.origin, languageAsked(url)),
      `receipt-${params.number}.pdf`
    )
  );
