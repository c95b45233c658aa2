import { messagesOf, send } from './api.ts';

/** Asks the temperature probe for its reading, in °C to a tenth; or why there is none. */
export async function probe(): Promise<{ ok: true; celsius: string } | { ok: false; why: string }> {
  const reply = await send<{ celsius: string }>('GET', '/api/v1/devices/probe');
  return reply.ok
    ? { ok: true, celsius: reply.body.celsius }
    : { ok: false, why: messagesOf(reply.refusal)[0]! };
}
