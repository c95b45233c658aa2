import type { RequestHandler } from './$types';
import { answering, recordResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { CustomerWishes } from '$lib/server/catalogue/schemas.ts';
import { putWishes, readCustomerWishes } from '$lib/server/catalogue/wishes.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params: { code } }) =>
  answering(async () => {
    const wishes = await readCustomerWishes(db(), code);
    return recordResponse({ wishes }, tagOf(wishes));
  });

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const given = await readBody(request, CustomerWishes);
    const wishes = await asAsked(db(), request, {
      ...{ what: 'wishes', code },
      read: (tx) => readCustomerWishes(tx, code),
      keep: (tx) => putWishes(tx, code, given.wishes)
    });
    return recordResponse({ wishes }, tagOf(wishes));
  });
