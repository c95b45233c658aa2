import { Problem } from '../kernel/problem.ts';

/**
 * The body where it is a file itself; one that says it is larger is not read at all.
 * @param most bytes that are taken
 * @param of what it is, where it stands, and what mends it
 * @throws Problem 413
 */
export async function readUpload(
  request: Request,
  most: number,
  { what, path, message }: { what: string; path: string; message: string }
): Promise<Uint8Array> {
  if (Number(request.headers.get('content-length') ?? 0) > most)
    throw new Problem(413, `The ${what} is too large`, [
      { code: 'request.too-large', path, message }
    ]);
  return new Uint8Array(await request.arrayBuffer());
}
