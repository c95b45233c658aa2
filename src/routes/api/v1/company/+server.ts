import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Company } from '$lib/server/api/schemas';
import { company, putCompany } from '$lib/server/catalogue/company';
import { db } from '$lib/server/db/client';

export const GET: RequestHandler = () => answering(async () => jsonResponse(await company(db())));

export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await putCompany(db(), locals.actor!, await readBody(request, Company)))
  );
