import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { readUpload } from '$lib/server/http/read-upload.ts';
import { MOST_PICTURE_BYTES } from '$lib/server/catalogue/picture-file.ts';
import { putPicture, readPictures } from '$lib/server/catalogue/pictures.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** The picture; 204 where the product has none, so that a screen need not ask beforehand. */
export const GET: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const [picture] = (await readPictures(db(), [params.code])).values();
    if (!picture) return new Response(null, { status: 204 });
    // Asked for anew each time, and sent anew only where another was set.
    const etag = `"${picture.tag}"`;
    if (request.headers.get('if-none-match') === etag)
      return new Response(null, { status: 304, headers: { etag } });
    return new Response(Buffer.from(picture.bytes), {
      headers: {
        'content-type': picture.type,
        'cache-control': 'private, no-cache',
        etag,
        'content-security-policy': "default-src 'none'",
        'x-content-type-options': 'nosniff'
      }
    });
  });

/** The body is the file itself. */
export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const bytes = await readUpload(request, MOST_PICTURE_BYTES, {
      what: 'picture',
      path: 'picture',
      message: 'A picture of at most 1 MB is taken. Save it smaller.'
    });
    await putPicture(db(), locals.actor!, params.code, bytes);
    return new Response(null, { status: 204 });
  });

export const DELETE: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await putPicture(db(), locals.actor!, params.code, null);
    return new Response(null, { status: 204 });
  });
