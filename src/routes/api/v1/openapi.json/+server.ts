import { jsonResponse } from '$lib/server/http/answer.ts';
import { openApi } from '$lib/server/http/openapi.ts';

const document = JSON.stringify(openApi());
export const GET = () => jsonResponse(document);
