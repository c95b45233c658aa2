import type { RequestEvent } from '@sveltejs/kit';
import type { z } from 'zod';
import { book, type BookingKind, type Circumstances } from '../ledger/book.ts';
import { db } from '../kernel/db/client.ts';
import { answering, jsonResponse } from './answer.ts';
import { checkInstant, idempotencyKey, readBody } from './read-body.ts';

/**
 * The POST handler of one kind of booking: parse, book, answer 201, or 200 where the key was seen
 * before.
 */
export const bookingRoute =
  <Request extends Circumstances>(kind: BookingKind<Request>, schema: z.ZodType<Request>) =>
  ({ request, locals }: RequestEvent): Promise<Response> =>
    answering(async () => {
      const key = idempotencyKey(request);
      const body = await readBody(request, schema);
      checkInstant(body.at);
      const { answer, fresh } = await book(db(), kind, locals.actor!, key, body);
      return jsonResponse(answer, fresh ? 201 : 200);
    });
