import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { PickList } from '$lib/server/shipping/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { makePickList } from '$lib/server/shipping/make-pick-list.ts';
import { readPictures } from '$lib/server/catalogue/pictures.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { pickListPdf } from '$lib/server/shipping/papers/pick-list.ts';
import { readOrder } from '$lib/server/orders/read-orders.ts';
import { readPicksOf } from '$lib/server/shipping/picks.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { today } from '$lib/server/kernel/clock.ts';

/** The list as JSON, or with `format=pdf` on paper. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const order =
      (await readOrder(db(), 'sales', params.number)) ?? notFound('order', params.number);
    const picks = await readPicksOf(db(), order.number, today());
    if (url.searchParams.get('format') !== 'pdf') return jsonResponse({ picks });
    return pdfResponse(
      await pickListPdf(
        order,
        picks,
        await readPictures(
          db(),
          picks.map((pick) => pick.product)
        )
      ),
      `pick-list-${order.number}.pdf`
    );
  });

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { lines, until = null, ...how } = await readBody(request, PickList);
    return jsonResponse(
      await makePickList(db(), locals.actor!, params.number, lines, {
        ...how,
        until,
        day: today()
      })
    );
  });
