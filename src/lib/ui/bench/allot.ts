import { send, type Refusal } from '../frame/api.ts';
import { newKey } from '../frame/new-key.ts';

/** Asks the server for a block of new numbers of a product; each is given once, to whoever asks. */
export async function allot(
  product: string,
  kind: 'lot' | 'serial',
  count: number,
  place: string
): Promise<{ ok: true; numbers: string[] } | { ok: false; refusal: Refusal }> {
  const reply = await send<{ numbers: string[] }>(
    'POST',
    '/api/v1/numbers',
    { product, kind, count, ...(place ? { place } : {}) },
    { 'idempotency-key': newKey() }
  );
  return reply.ok
    ? { ok: true, numbers: reply.body.numbers }
    : { ok: false, refusal: reply.refusal };
}
