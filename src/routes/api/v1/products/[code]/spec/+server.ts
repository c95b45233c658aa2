import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { Spec, SpecQuery } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putSpec, readSpecs } from '$lib/server/catalogue/specs.ts';
import { db } from '$lib/server/kernel/db/client.ts';

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
