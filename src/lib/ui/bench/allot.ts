import { send, type Refusal } from '../api';

/** Asks the server for a block of new numbers of a product; each is given once, to whoever asks. */
export async function allot(product: string, kind: 'lot' | 'serial', count: number, place: string): Promise<{ ok: true; numbers: string[] } | { ok: false; refusal: Refusal }> {
  const key = [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  const reply = await send<{ numbers: string[] }>('POST', '/api/v1/numbers', { product, kind, count, ...(place ? { place } : {}) }, { 'idempotency-key': key });
  return reply.ok ? { ok: true, numbers: reply.body.numbers } : { ok: false, refusal: reply.refusal };
}
