import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { caseFilePdf } from '$lib/server/recall/papers/recall-file.ts';
import { caseFileXlsx } from '$lib/server/recall/papers/recall-workbook.ts';
import { readRecall } from '$lib/server/recall/read-recall.ts';
import { fileResponse, pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

/** The case file: PDF, or with `format=xlsx` a workbook. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const page =
      (await readRecall(db(), params.number, new Date())) ?? notFound('recall', params.number);
    if (url.searchParams.get('format') === 'xlsx')
      return fileResponse({
        body: await caseFileXlsx(page),
        type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        name: `${page.number}.xlsx`
      });
    return pdfResponse(await caseFilePdf(page), `${page.number}.pdf`);
  });
