import type { RequestHandler } from './$types';
import { tableApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fitsOneFile } from '$lib/server/kernel/tables/fits-one-file.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { SecurityQuery } from '$lib/server/people/schemas.ts';
import { readSecurityLog } from '$lib/server/people/security-log.ts';

const MOST_LISTED = 200;
const MOST_IN_FILE = 50_000;
const COLUMNS = [
  { key: 'at', says: 'when' },
  { key: 'kind', says: 'what' },
  { key: 'who', says: 'who' },
  { key: 'login', says: 'sign-in' },
  { key: 'token', says: 'token' },
  { key: 'address', says: 'from' },
  { key: 'about', says: 'about' }
];

/** Who came in, was refused, changed rules or took files away; the latest first. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { format, ...asked } = readQuery(url, SecurityQuery);
    if (format === 'json')
      return jsonResponse({ lines: await readSecurityLog(db(), asked, MOST_LISTED) });
    const lines = await readSecurityLog(db(), asked, MOST_IN_FILE + 1);
    fitsOneFile(lines.length, MOST_IN_FILE, 'Ask for fewer days.');
    const rows = lines.map((line) => ({
      ...{ at: line.at, kind: line.kind, login: line.login },
      ...{ address: line.address, about: line.about, who: line.who ?? '', token: line.token ?? '' }
    }));
    return fileResponse(await tableApart('security-log', format, COLUMNS, rows));
  });
