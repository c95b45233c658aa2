import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Order, OrderChange, ORDER_KINDS } from '$lib/server/orders/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putOrder, setOrderClosed, setSerialsLater } from '$lib/server/orders/write-order.ts';
import type { OrderKind } from '$lib/server/orders/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readOrder } from '$lib/server/orders/read-orders.ts';

const kindOf = (text: string): OrderKind =>
  ORDER_KINDS.find((kind) => kind === text) ?? notFound('kind of order', text);

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readOrder(db(), kindOf(params.kind), params.number)) ??
        notFound('order', params.number)
    )
  );

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { order, created } = await putOrder(
      db(),
      locals.actor!,
      kindOf(params.kind),
      params.number,
      await readBody(request, Order)
    );
    return jsonResponse(order, created ? 201 : 200);
  });

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { closed, serialsLater } = await readBody(request, OrderChange);
    if (serialsLater !== undefined)
      await setSerialsLater(db(), locals.actor!, params.number, serialsLater);
    if (closed !== undefined)
      return jsonResponse(
        await setOrderClosed(db(), locals.actor!, kindOf(params.kind), params.number, closed)
      );
    return jsonResponse(
      (await readOrder(db(), kindOf(params.kind), params.number)) ??
        notFound('order', params.number)
    );
  });
