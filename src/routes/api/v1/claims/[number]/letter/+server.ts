import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { languageAsked } from '$lib/server/http/paper-asked.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { claimLetterPdf } from '$lib/server/service/papers/claim-letter.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () =>
    pdfResponse(
      await claimLetterPdf(db(), params.number, languageAsked(url)),
      `claim-${params.number}.pdf`
    )
  );
