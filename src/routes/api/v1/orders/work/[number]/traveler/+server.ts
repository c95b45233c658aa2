import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readTraveler, travelerPdf } from '$lib/server/making/papers/traveler.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const traveler = (await readTraveler(db(), params.number)) ?? notFound('order', params.number);
    return pdfResponse(await travelerPdf(traveler), `traveler-${traveler.order.number}.pdf`);
  });
