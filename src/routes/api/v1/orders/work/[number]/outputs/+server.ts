import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { NamedOutputs, UnnamedOutputs } from '$lib/server/making/schemas.ts';
import { nameOutputs, unnameOutputs } from '$lib/server/making/planned-outputs.ts';
import { db } from '$lib/server/kernel/db/client.ts';

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
