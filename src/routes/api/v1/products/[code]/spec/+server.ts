import type { RequestHandler } from './$types';
import { answering, jsonResponse, recordResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { Spec, SpecQuery } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putSpec, readSpecs } from '$lib/server/catalogue/specs.ts';
import { seenOfSpec } from '$lib/server/catalogue/seen-versions.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params: { code }, url }) =>
  answering(async () => {
    const { partner = '' } = readQuery(url, SpecQuery);
    const seen = await seenOfSpec(db(), code, partner || null);
    const spec = (await readSpecs(db(), [code])).find(
      (one) => (one.partner ?? '').toUpperCase() === partner.toUpperCase()
    );
    if (!spec || !seen) notFound('spec', code);
    return recordResponse(spec, tagOf(seen));
  });

export const PUT: RequestHandler = ({ params: { code }, url, request, locals }) =>
  answering(async () => {
    const partner = readQuery(url, SpecQuery).partner ?? null;
    const body = await readBody(request, Spec);
    const kept = await asAsked(db(), request, {
      ...{ what: 'spec', code: partner === null ? code : `${code} for ${partner}` },
      read: (tx) => seenOfSpec(tx, code, partner),
      keep: (tx) => putSpec(tx, locals.actor!, code, partner, body)
    });
    return jsonResponse(kept, 201);
  });
