import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Company } from '$lib/server/catalogue/schemas.ts';
import { company, putCompany } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = () => answering(async () => jsonResponse(await company(db())));

export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await putCompany(db(), locals.actor!, await readBody(request, Company)))
  );
