import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { languageAsked } from '$lib/server/http/paper-asked.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { confirmationPdf } from '$lib/server/receiving/papers/confirmation.ts';
import { readConfirmation } from '$lib/server/receiving/read-confirmation.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const said =
      (await readConfirmation(db(), params.number, languageAsked(url))) ??
      notFound('purchase order', params.number);
    return pdfResponse(await confirmationPdf(said), `confirmation-${said.number}.pdf`);
  });
