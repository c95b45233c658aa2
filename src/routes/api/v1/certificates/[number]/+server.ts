import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { certificatePdf, readCertificate } from '$lib/server/documents/certificate';
import { rowId } from '$lib/server/row-id';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const number = rowId(params.number);
    const certificate =
      (number === null ? null : await readCertificate(db(), number)) ??
      notFound('certificate', params.number);
    return fileResponse(
      {
        body: await certificatePdf(certificate),
        type: 'application/pdf',
        name: `certificate-${certificate.number}.pdf`
      },
      true
    );
  });
