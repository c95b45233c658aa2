import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { readTraveler, travelerPdf } from '$lib/server/documents/traveler';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const traveler = (await readTraveler(db(), params.number)) ?? notFound('order', params.number);
    return fileResponse(
      {
        body: await travelerPdf(traveler),
        type: 'application/pdf',
        name: `traveler-${traveler.order.number}.pdf`
      },
      true
    );
  });
