import { ONLY_NEW, send, type Reply } from './api.ts';

/**
 * Keeps something that is set up, under its code.
 * @param kind its collection in the API, such as `products`
 * @param code as it was typed
 * @param tag entity tag of what was seen: refused where it is another by now. Null for something
 * new: refused where there is one under that code
 */
export const putRecord = <T>(
  kind: string,
  code: string,
  body: object,
  tag: string | null
): Promise<Reply<T>> =>
  // An address needs a code, so that one that is missing is told like any other fault.
  send<T>(
    'PUT',
    `/api/v1/${kind}/${encodeURIComponent(code.trim() || ' ')}`,
    body,
    tag === null ? ONLY_NEW : { 'if-match': tag }
  );
