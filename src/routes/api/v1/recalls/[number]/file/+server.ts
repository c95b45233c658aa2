import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { caseFilePdf, caseFileXlsx } from '$lib/server/documents/recall-file';
import { readRecall } from '$lib/server/reading/recall';
import { fileResponse } from '$lib/server/tables/write-table';

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
    return fileResponse(
      { body: await caseFilePdf(page), type: 'application/pdf', name: `${page.number}.pdf` },
      true
    );
  });
