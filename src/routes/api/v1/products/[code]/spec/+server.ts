import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody, readQuery } from '$lib/server/api/read-body';
import { Spec, SpecQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { putSpec, readSpecs } from '$lib/server/catalogue/specs';
import { db } from '$lib/server/db/client';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { partner } = readQuery(url, SpecQuery);
    return jsonResponse(
      (await readSpecs(db(), [params.code])).find(
        (one) => (one.partner ?? '').toUpperCase() === (partner ?? '').toUpperCase()
      ) ?? notFound('spec', params.code)
    );
  });

export const PUT: RequestHandler = ({ params, url, request, locals }) =>
  answering(async () =>
    jsonResponse(
      await putSpec(
        db(),
        locals.actor!,
        params.code,
        readQuery(url, SpecQuery).partner ?? null,
        await readBody(request, Spec)
      ),
      201
    )
  );
