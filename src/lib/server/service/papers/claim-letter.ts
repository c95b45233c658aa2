import type { Language } from '../../../core/papers/language.ts';
import { sayDayIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import type { ClaimPart } from '../../../core/service/claim.ts';
import { company } from '../../catalogue/company.ts';
import { languageOf } from '../../catalogue/partners-places.ts';
import { today } from '../../kernel/clock.ts';
import type { Db } from '../../kernel/db/client.ts';
import { Paper, SOFT } from '../../kernel/paper/paper.ts';
import { notFound } from '../../kernel/problem.ts';
import { readClaim } from '../read-claims.ts';

/**
 * The letter that goes to a supplier with the parts that are claimed, which is their packing list
 * too: each by its serial, the receipt it came by, and why.
 * @param asked the language it is asked in; the supplier's where none is
 * @throws Problem 404
 */
export async function claimLetterPdf(
  db: Db,
  number: string,
  asked?: Language
): Promise<Uint8Array> {
  const [claim, own] = await Promise.all([readClaim(db, number), company(db)]);
  if (!claim) notFound('claim', number);
  const language = asked ?? (await languageOf(db, claim.supplier));
  const words = wordsIn(language);
  const paper = new Paper(words.claim.title, claim.number, language);
  paper.facts([
    [words.from, own.name],
    [words.to, claim.name],
    ...(claim.reference ? [[words.claim.yourNumber, claim.reference] as const] : []),
    [words.date, sayDayIn(today(), language)],
    [words.claim.parts, String(claim.parts.length)]
  ]);
  if (claim.address) paper.paragraph(claim.address);
  paper.paragraph(words.claim.opening);
  for (const part of claim.parts) writePart(paper, part, words);
  return paper.end(words.claim.foot(claim.number));
}

function writePart(paper: Paper, claimed: ClaimPart, words: PaperWords): void {
  const { claim } = words;
  const day = (one: string): string => sayDayIn(one, paper.language);
  paper.heading(`${claimed.product}  ${claimed.serial}`);
  const came = claim.received(
    claimed.document ?? claim.noPaper,
    claimed.received && day(claimed.received)
  );
  const until = claimed.warrantyUntil ? words.warrantyUntil(day(claimed.warrantyUntil)) : '';
  paper.cell(came, 0, 110, { points: 10 });
  paper.atRight(claimed.goodwill ? claim.goodwill : until, { points: 10, colour: SOFT });
  paper.y += 16;
  paper.paragraph(claimed.reason);
}
