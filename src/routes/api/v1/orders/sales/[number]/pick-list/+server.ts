import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { PickList } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { makePickList } from '$lib/server/catalogue/pick-list';
import { db } from '$lib/server/db/client';
import { pickListPdf } from '$lib/server/documents/pick-list';
import { readOrder } from '$lib/server/reading/orders';
import { readPicksOf } from '$lib/server/reading/picks';
import { fileResponse } from '$lib/server/tables/write-table';
import { today } from '$lib/server/today';

/** The list as JSON, or with `format=pdf` on paper. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const order =
      (await readOrder(db(), 'sales', params.number)) ?? notFound('order', params.number);
    const picks = await readPicksOf(db(), order.number);
    if (url.searchParams.get('format') !== 'pdf') return jsonResponse({ picks });
    return fileResponse(
      {
        body: await pickListPdf(order, picks),
        type: 'application/pdf',
        name: `pick-list-${order.number}.pdf`
      },
      true
    );
  });

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { lines, until } = await readBody(request, PickList);
    return jsonResponse(
      await makePickList(db(), locals.actor!, params.number, lines, until ?? null, today())
    );
  });
