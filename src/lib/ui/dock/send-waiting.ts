import { messagesOf, type Reply } from '../frame/api.ts';
import type { WaitingBooking } from './store.ts';

type Send = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>
) => Promise<Reply<object>>;

/** What became of a booking that waited. */
export type Became =
  { what: 'booked'; booked: object } | { what: 'refused'; messages: string[] } | { what: 'waits' };

/** Answers that say nothing about the booking: nobody there, not signed in, locked, too much at once. */
const LATER = new Set([0, 401, 408, 423, 429]);

/**
 * Sends a booking that waited, under the key it got when it was left: sent twice it is booked once.
 * @returns `waits` where nothing was said about it, so that it is sent again
 */
export async function sendWaiting(booking: WaitingBooking, send: Send): Promise<Became> {
  const reply = await send('POST', booking.path, booking.request, {
    'idempotency-key': booking.key
  });
  if (reply.ok) return { what: 'booked', booked: reply.body };
  const { status } = reply.refusal;
  if (LATER.has(status) || status >= 500) return { what: 'waits' };
  return { what: 'refused', messages: messagesOf(reply.refusal) };
}
