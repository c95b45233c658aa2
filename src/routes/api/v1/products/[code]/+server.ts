import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Product } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putProduct, readProduct } from '$lib/server/catalogue/products.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const { product, created } = await putProduct(
      db(),
      params.code,
      await readBody(request, Product)
    );
    return jsonResponse(product, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readProduct(db(), params.code)) ?? notFound('product', params.code))
  );
