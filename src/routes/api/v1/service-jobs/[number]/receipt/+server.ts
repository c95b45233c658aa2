import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { receiptPdf } from '$lib/server/service/papers/receipt.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () =>
    fileResponse(
      {
        body: await receiptPdf(db(), params.number, url.origin),
        type: 'application/pdf',
        name: `receipt-${params.number}.pdf`
      },
      true
    )
  );
