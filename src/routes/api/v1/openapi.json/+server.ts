import { jsonResponse } from '$lib/server/api/answer';
import { openApi } from '$lib/server/api/openapi';

const document = JSON.stringify(openApi());
export const GET = () => jsonResponse(document);
