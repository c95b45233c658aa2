import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { MOST_PICTURE_BYTES } from '$lib/server/catalogue/picture-file.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { addPhoto } from '$lib/server/service/photos.ts';

/** The body is the photograph itself. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    if (Number(request.headers.get('content-length') ?? 0) > MOST_PICTURE_BYTES)
      throw new Problem(413, 'The photograph is too large', [
        {
          code: 'request.too-large',
          path: 'photo',
          message: 'A photograph of at most 1 MB is taken. Save it smaller.'
        }
      ]);
    const bytes = new Uint8Array(await request.arrayBuffer());
    return jsonResponse({ id: await addPhoto(db(), locals.actor!, params.number, bytes) }, 201);
  });
