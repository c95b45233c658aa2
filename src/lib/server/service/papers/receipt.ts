import { dayOf, HOME_ZONE } from '../../../core/calendar/day.ts';
import type { Language } from '../../../core/papers/language.ts';
import { sayDayIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import { company } from '../../catalogue/company.ts';
import { languageOf } from '../../catalogue/partners-places.ts';
import { today } from '../../kernel/clock.ts';
import type { Db } from '../../kernel/db/client.ts';
import { Paper } from '../../kernel/paper/paper.ts';
import { mm, writeAt } from '../../kernel/paper/pdf.ts';
import { drawSymbol, placeSymbol } from '../../kernel/paper/symbol.ts';
import { readJob, type JobRecord, type WholeJob } from '../read-job.ts';
import { readSettings } from '../settings.ts';

const SYMBOL = 24;

/**
 * What the customer takes home: which unit, what they said, what came with it, and the number they
 * ask by, as a code that opens its page where there is one.
 * @param base address of this Earmark, without a slash at its end
 * @param asked the language it is asked in; the customer's where none is
 * @throws Problem 404
 */
export async function receiptPdf(
  db: Db,
  number: string,
  base: string,
  asked?: Language
): Promise<Uint8Array> {
  const [whole, own, settings] = await Promise.all([
    readJob(db, number, today()),
    company(db),
    readSettings(db)
  ]);
  const { job } = whole;
  const language = asked ?? (await languageOf(db, job.customer));
  const words = wordsIn(language);
  const paper = new Paper(words.job.title, job.number, language);
  const top = paper.y;
  placeTracking(paper, job, settings.tracking ? base : null);
  writeHead(paper, whole, own.name, words);
  paper.y = Math.max(paper.y, top + mm(SYMBOL + 4));
  writeTold(paper, job, words);
  paper.space(60);
  paper.y += 26;
  const line = `${words.job.handedOver}: ______________________________   ${words.date}: ______________`;
  writeAt(paper.doc, line, paper.left, paper.y);
  return paper.end(words.job.foot(job.number));
}

/** The number they ask by as a code; a whole address where there is a page to open. */
function placeTracking(paper: Paper, job: JobRecord, base: string | null): void {
  const tracking = job.tracking.replaceAll('-', '');
  const text = base === null ? tracking : `${base}/track/${tracking}`;
  const symbol = drawSymbol({ form: 'plain', text, under: '', why: null }, 'qr');
  const x = paper.right - mm(SYMBOL);
  placeSymbol(paper.doc, symbol, x, paper.y, mm(SYMBOL), mm(SYMBOL));
}

function writeHead(
  paper: Paper,
  { job, warranties }: WholeJob,
  own: string,
  words: PaperWords
): void {
  const day = (one: string): string => sayDayIn(one, paper.language);
  const ours = warranties?.ours;
  const unit = words.job.serial(`${job.product} ${job.productName}`, job.serial);
  paper.facts([
    [words.job.takenBy, own],
    [words.from, job.customerName],
    [words.job.unit, unit],
    [words.job.opened, day(dayOf(new Date(job.openedAt), HOME_ZONE))],
    ...(job.promised ? [[words.job.promised, day(job.promised)] as const] : []),
    ...(ours?.state === 'running' ? [[words.job.warranty, day(ours.until)] as const] : []),
    [words.job.ask, job.tracking]
  ]);
}

/** What was said and seen when it was taken in. */
function writeTold(paper: Paper, job: JobRecord, words: PaperWords): void {
  const told = [
    [words.job.wrong, job.fault],
    [words.job.condition, job.condition],
    [words.job.cameWith, job.accessories]
  ] as const;
  for (const [says, text] of told) {
    if (text === '') continue;
    paper.heading(says);
    paper.paragraph(text);
  }
}
