import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { NamedOutputs, UnnamedOutputs } from '$lib/server/api/schemas';
import { nameOutputs, unnameOutputs } from '$lib/server/catalogue/planned-outputs';
import { db } from '$lib/server/db/client';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () =>
    jsonResponse({
      outputs: await nameOutputs(
        db(),
        locals.actor!,
        params.number,
        await readBody(request, NamedOutputs)
      )
    })
  );

export const DELETE: RequestHandler = ({ params, request, locals }) =>
  answering(async () =>
    jsonResponse({
      outputs: await unnameOutputs(
        db(),
        locals.actor!,
        params.number,
        (await readBody(request, UnnamedOutputs)).numbers
      )
    })
  );
