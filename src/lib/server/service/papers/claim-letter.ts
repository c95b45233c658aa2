import { sayDay } from '../../../core/calendar/say-day.ts';
import { company } from '../../catalogue/company.ts';
import { today } from '../../kernel/clock.ts';
import type { Db } from '../../kernel/db/client.ts';
import { Paper, SOFT } from '../../kernel/paper/paper.ts';
import { notFound } from '../../kernel/problem.ts';
import type { ClaimPart } from '../../../core/service/claim.ts';
import { readClaim } from '../read-claims.ts';

/**
 * The letter that goes to a supplier with the parts that are claimed, which is their packing list
 * too: each by its serial, the receipt it came by, and why.
 * @throws Problem 404
 */
export async function claimLetterPdf(db: Db, number: string): Promise<Uint8Array> {
  const [claim, own] = await Promise.all([readClaim(db, number), company(db)]);
  if (!claim) notFound('claim', number);
  const paper = new Paper('Claim', claim.number);
  paper.facts([
    ['from', own.name],
    ['to', claim.name],
    ...(claim.reference ? [['your number', claim.reference] as const] : []),
    ['date', sayDay(today())],
    ['parts', String(claim.parts.length)]
  ]);
  if (claim.address) paper.paragraph(claim.address);
  paper.paragraph(
    'We received these parts from you and claim them under your warranty, where nothing else is said. Please credit or replace them, part by part.'
  );
  for (const part of claim.parts) writePart(paper, part);
  return paper.end(`Claim ${claim.number}`);
}

function writePart(paper: Paper, claimed: ClaimPart): void {
  paper.heading(`${claimed.product}  ${claimed.serial}`);
  const came = claimed.received ? `, ${sayDay(claimed.received)}` : '';
  const until = claimed.warrantyUntil ? `warranty until ${sayDay(claimed.warrantyUntil)}` : '';
  paper.cell(`received on ${claimed.document ?? 'no paper known'}${came}`, 0, 110, { points: 10 });
  paper.atRight(claimed.goodwill ? 'claimed as goodwill' : until, { points: 10, colour: SOFT });
  paper.y += 16;
  paper.paragraph(claimed.reason);
}
