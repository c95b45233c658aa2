/**
 * The bytes of a body, counted while they come: what it says of its own size is not believed.
 * @param most bytes that are taken
 * @param tooLarge what is thrown where there are more, or the server takes no more
 */
export async function readBytes(
  request: Request,
  most: number,
  tooLarge: () => Error
): Promise<Uint8Array> {
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge();
  const pieces: Uint8Array[] = [];
  let size = 0;
  try {
    for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
      size += piece.length;
      if (size > most) throw tooLarge();
      pieces.push(piece);
    }
  } catch (error) {
    throw (error as { status?: number }).status === 413 ? tooLarge() : error;
  }
  return pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces);
}
