import type { RequestHandler } from './$types';
import { answering, recordResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Product } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putProduct, readProduct } from '$lib/server/catalogue/products.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const body = await readBody(request, Product);
    const { product, created } = await asAsked(db(), request, {
      ...{ what: 'product', code },
      read: (tx) => readProduct(tx, code),
      keep: (tx) => putProduct(tx, code, body)
    });
    return recordResponse(product, tagOf(product), created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const product = (await readProduct(db(), params.code)) ?? notFound('product', params.code);
    return recordResponse(product, tagOf(product));
  });
