import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readCertificate } from '$lib/server/quality/issue-certificate.ts';
import { certificatePdf } from '$lib/server/quality/papers/certificate.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const number = rowId(params.number);
    const certificate =
      (number === null ? null : await readCertificate(db(), number)) ??
      notFound('certificate', params.number);
    return pdfResponse(await certificatePdf(certificate), `certificate-${certificate.number}.pdf`);
  });
