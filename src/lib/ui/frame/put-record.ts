import { asSeen, send, type Reply } from './api.ts';

/**
 * Keeps something that is set up, under its code.
 * @param kind its collection in the API, such as `products`
 * @param code as it was typed
 * @param tag entity tag of what was seen; null for something new
 */
export const putRecord = <T>(
  kind: string,
  code: string,
  body: object,
  tag: string | null
): Promise<Reply<T>> =>
  // An address needs a code, so that one that is missing is told like any other fault.
  send<T>('PUT', `/api/v1/${kind}/${encodeURIComponent(code.trim() || ' ')}`, body, asSeen(tag));
