import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ProposalQuery } from '$lib/server/shipping/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readProposal } from '$lib/server/shipping/proposal.ts';
import { today } from '$lib/server/kernel/clock.ts';

/** `3:LOT-7;4:SN-1` → what must be taken, by line. */
const readNamed = (text: string | undefined): Record<number, string> =>
  Object.fromEntries(
    (text ?? '').split(';').flatMap((one) => {
      const at = one.indexOf(':');
      return at > 0 ? [[Number(one.slice(0, at)), one.slice(at + 1)]] : [];
    })
  );

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { rule, day, named } = readQuery(url, ProposalQuery);
    return jsonResponse(
      await readProposal(db(), params.number, rule, readNamed(named), day ?? today())
    );
  });
