import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Product } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putProduct, readProduct } from '$lib/server/catalogue/products.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, Product);
    const { product, created } = await onlyNew(db(), request, 'product', params.code, () =>
      putProduct(db(), params.code, body)
    );
    return jsonResponse(product, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readProduct(db(), params.code)) ?? notFound('product', params.code))
  );
