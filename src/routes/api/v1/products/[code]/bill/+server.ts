import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { Bill, BillQuery } from '$lib/server/catalogue/schemas.ts';
import { forEyesOf } from '$lib/server/catalogue/costs-of-bill.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { billVersions, putBill, readBill } from '$lib/server/catalogue/bills.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const GET: RequestHandler = ({ params, url, locals }) =>
  answering(async () => {
    const { version, day } = readQuery(url, BillQuery);
    const bill =
      (await readBill(
        db(),
        params.code,
        version === undefined ? { day: day ?? today() } : { version }
      )) ?? notFound('bill', params.code);
    const { id: _, ...rest } = forEyesOf(locals.actor!, bill);
    return jsonResponse({ ...rest, versions: await billVersions(db(), params.code) });
  });

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { bill, created } = await putBill(
      db(),
      params.code,
      await readBody(request, Bill),
      locals.actor!.personId
    );
    return jsonResponse(forEyesOf(locals.actor!, bill), created ? 201 : 200);
  });
