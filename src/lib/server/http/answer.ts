import { Readable } from 'node:stream';
import { Problem } from '../kernel/problem.ts';
import { databaseProblem } from '../kernel/database-problem.ts';

const PROBLEM = 'application/problem+json';

/** A Problem as an RFC 9457 document. */
export function problemResponse(problem: Problem): Response {
  const { status, title, detail, errors } = problem;
  const headers: Record<string, string> = { 'content-type': PROBLEM, 'cache-control': 'no-store' };
  if (status === 401) headers['www-authenticate'] = 'Bearer';
  return new Response(
    JSON.stringify({ type: 'about:blank', title, status, ...(detail ? { detail } : {}), errors }),
    { status, headers }
  );
}

export const jsonResponse = (body: string | object, status = 200): Response =>
  new Response(typeof body === 'string' ? body : JSON.stringify(body), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' }
  });

/** A record with its entity tag, by which whoever changes it says what they saw. */
export const recordResponse = (record: object, tag: string, status = 200): Response => {
  const response = jsonResponse(record, status);
  response.headers.set('etag', tag);
  return response;
};

/** JSON that was written in pieces, sent as they are. */
export const jsonPieces = (pieces: readonly Uint8Array[]): Response =>
  new Response(streamOf(pieces), {
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' }
  });

/** Text as a stream, made piece by piece as it is read. */
export const streamOfText = (pieces: AsyncIterable<string>): ReadableStream<Uint8Array> =>
  Readable.toWeb(Readable.from(encoded(pieces))) as ReadableStream<Uint8Array>;

async function* encoded(pieces: AsyncIterable<string>): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for await (const piece of pieces) yield encoder.encode(piece);
}

/**
 * Pieces as a stream, joined to some size first: thousands of small ones would cost more than their
 * text.
 */
export function streamOf(pieces: readonly Uint8Array[]): ReadableStream<Uint8Array> {
  const JOINED = 1 << 18;
  let next = 0;
  return new ReadableStream({
    pull(controller) {
      if (next >= pieces.length) {
        controller.close();
        return;
      }
      const batch: Uint8Array[] = [];
      for (let size = 0; next < pieces.length && size < JOINED; size += pieces[next++]!.length)
        batch.push(pieces[next]!);
      controller.enqueue(batch.length === 1 ? batch[0]! : Buffer.concat(batch));
    }
  });
}

/**
 * Runs a handler and turns what it throws into an answer: a Problem as it stands; a database that
 * does not answer as 503; anything else as 500 with a reference, the particulars going to the log
 * only.
 */
export async function answering(handler: () => Promise<Response>): Promise<Response> {
  try {
    return await handler();
  } catch (error) {
    if (error instanceof Problem) return problemResponse(error);
    const known = databaseProblem(error);
    if (known) return problemResponse(known);
    const reference = Math.random().toString(36).slice(2, 10);
    console.error(`[${reference}]`, error);
    return problemResponse(
      new Problem(500, 'Something went wrong in Earmark', [
        {
          code: 'server.fault',
          path: '',
          message: `Nothing was booked. Tell your administrator the reference ${reference}; the server's log has the particulars.`
        }
      ])
    );
  }
}
