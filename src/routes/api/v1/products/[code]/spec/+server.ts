import type { RequestHandler } from './$types';
import { answering, jsonResponse, recordResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { Spec, SpecQuery } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putSpec, readSpec } from '$lib/server/catalogue/specs.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params: { code }, url }) =>
  answering(async () => {
    const { partner = null } = readQuery(url, SpecQuery);
    const spec = (await readSpec(db(), code, partner)) ?? notFound('spec', code);
    return recordResponse(spec, tagOf(spec));
  });

export const PUT: RequestHandler = ({ params: { code }, url, request, locals }) =>
  answering(async () => {
    const { partner = null } = readQuery(url, SpecQuery);
    const body = await readBody(request, Spec);
    const kept = await asAsked(db(), request, {
      ...{ what: 'spec', code: partner === null ? code : `${code} for ${partner}` },
      read: (tx) => readSpec(tx, code, partner),
      keep: (tx) => putSpec(tx, locals.actor!, code, partner, body)
    });
    return jsonResponse(kept, 201);
  });
