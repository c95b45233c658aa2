import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Product } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { putProduct, readProduct } from '$lib/server/catalogue/products';
import { db } from '$lib/server/db/client';

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
