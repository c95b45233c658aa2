import type { RequestHandler } from './$types';
import { answering, jsonResponse, recordResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { Bill, BillQuery } from '$lib/server/catalogue/schemas.ts';
import { forEyesOf } from '$lib/server/catalogue/costs-of-bill.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { billVersions, putBill, readBill } from '$lib/server/catalogue/bills.ts';
import { seenOfBill } from '$lib/server/catalogue/seen-bill.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const GET: RequestHandler = ({ params: { code }, url, locals }) =>
  answering(async () => {
    const { version, day } = readQuery(url, BillQuery);
    const which = version === undefined ? { day: day ?? today() } : { version };
    // What was seen is read first: a version kept between the two is one that was not seen.
    const seen = await seenOfBill(db(), code, today());
    const bill = (await readBill(db(), code, which)) ?? notFound('bill', code);
    const { id: _, ...rest } = forEyesOf(locals.actor!, bill);
    const answer = { ...rest, versions: await billVersions(db(), code) };
    // Another version than the one in force is no answer that a change could go on from.
    const isInForce = version === undefined && day === undefined;
    return isInForce && seen ? recordResponse(answer, tagOf(seen)) : jsonResponse(answer);
  });

export const PUT: RequestHandler = ({ params: { code }, request, locals }) =>
  answering(async () => {
    const body = await readBody(request, Bill);
    const { bill, created } = await asAsked(db(), request, {
      ...{ what: 'bill', code },
      read: (tx) => seenOfBill(tx, code, today()),
      keep: (tx) => putBill(tx, code, body, locals.actor!.personId)
    });
    return jsonResponse(forEyesOf(locals.actor!, bill), created ? 201 : 200);
  });
