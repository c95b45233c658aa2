import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { readNotice } from '$lib/server/catalogue/recalls';
import { db } from '$lib/server/db/client';
import { noticePdf } from '$lib/server/documents/recall-file';
import { rowId } from '$lib/server/row-id';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const notice =
      (id === null ? null : await readNotice(db(), params.number, id)) ??
      notFound('notice', params.id);
    return fileResponse(
      {
        body: await noticePdf(notice.content, notice.sentAt),
        type: 'application/pdf',
        name: `${notice.content.number}-${notice.content.partner}.pdf`
      },
      true
    );
  });
