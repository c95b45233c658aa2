import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { CertificateRequest } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { issueCertificate } from '$lib/server/documents/certificate';

/** Every issue is a certificate of its own with a number of its own. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(
      await issueCertificate(db(), locals.actor!, await readBody(request, CertificateRequest)),
      201
    )
  );
