import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readPhoto } from '$lib/server/service/photos.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const { type, bytes } = await readPhoto(db(), params.number, params.id);
    return new Response(Buffer.from(bytes), {
      headers: {
        'content-type': type,
        'cache-control': 'private, max-age=86400',
        'content-security-policy': "default-src 'none'"
      }
    });
  });
