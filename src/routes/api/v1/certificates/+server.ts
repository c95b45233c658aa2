import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { CertificateRequest } from '$lib/server/quality/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { issueCertificate } from '$lib/server/quality/issue-certificate.ts';

/** Every issue is a certificate of its own with a number of its own. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(
      await issueCertificate(db(), locals.actor!, await readBody(request, CertificateRequest)),
      201
    )
  );
