import { Problem } from '../kernel/problem.ts';
import { readBytes } from './read-bytes.ts';

/**
 * The body where it is a file itself.
 * @param most bytes that are taken
 * @param of what it is, where it stands, and what mends it
 * @throws Problem 413
 */
export const readUpload = (
  request: Request,
  most: number,
  { what, path, message }: { what: string; path: string; message: string }
): Promise<Uint8Array> =>
  readBytes(
    request,
    most,
    () =>
      new Problem(413, `The ${what} is too large`, [{ code: 'request.too-large', path, message }])
  );
