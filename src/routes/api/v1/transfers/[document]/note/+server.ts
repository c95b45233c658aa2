import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { transferNotePdf } from '$lib/server/stock/papers/transfer-note.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    fileResponse(
      {
        body: await transferNotePdf(db(), params.document),
        type: 'application/pdf',
        name: `transfer-${params.document}.pdf`
      },
      true
    )
  );
