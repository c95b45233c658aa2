import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { readNotice } from '$lib/server/recall/notices.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { noticePdf } from '$lib/server/recall/papers/notice.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const notice =
      (id === null ? null : await readNotice(db(), params.number, id)) ??
      notFound('notice', params.id);
    return pdfResponse(
      await noticePdf(notice.content, notice.sentAt),
      `${notice.content.number}-${notice.content.partner}.pdf`
    );
  });
