import type { RequestEvent } from '@sveltejs/kit';
import { BOOKING_KINDS, kindAt, type AnyKind } from '../kinds.ts';
import { book, check } from '../ledger/book.ts';
import { db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { answering, jsonResponse } from './answer.ts';
import { checkInstant, idempotencyKey, readBody } from './read-body.ts';

/**
 * The POST handler of one kind of booking: parse, book, answer 201, or 200 where the key was seen
 * before.
 */
export const bookingRoute =
  (path: string) =>
  ({ request, locals }: RequestEvent): Promise<Response> =>
    answering(async () => {
      const kind = known(path);
      const key = idempotencyKey(request);
      const body = await readBody(request, kind.schema);
      checkInstant(body.at);
      const { answer, fresh } = await book(db(), kind, locals.actor!, key, body);
      return jsonResponse(answer, fresh ? 201 : 200);
    });

/** The verdict on a booking, without booking it. */
export const checkRoute = ({ request, locals, params }: RequestEvent): Promise<Response> =>
  answering(async () => {
    const kind = known(params.kind ?? '');
    const body = await readBody(request, kind.schema);
    return jsonResponse(await check(db(), kind, locals.actor!, body));
  });

/** @throws Problem 404 naming the kinds there are */
function known(path: string): AnyKind {
  const kind = kindAt(path);
  if (kind) return kind;
  const paths = BOOKING_KINDS.map((one) => one.path).join(', ');
  throw new Problem(404, 'There is no such kind of booking', [
    { code: 'request.malformed', path: 'kind', message: `Use one of ${paths}.` }
  ]);
}
