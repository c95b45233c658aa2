import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readUpload } from '$lib/server/http/read-upload.ts';
import { MOST_PICTURE_BYTES } from '$lib/server/catalogue/picture-file.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { addPhoto } from '$lib/server/service/photos.ts';

/** The body is the photograph itself. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const bytes = await readUpload(request, MOST_PICTURE_BYTES, {
      what: 'photograph',
      path: 'photo',
      message: 'A photograph of at most 1 MB is taken. Save it smaller.'
    });
    return jsonResponse({ id: await addPhoto(db(), locals.actor!, params.number, bytes) }, 201);
  });
