import { sayDay } from '../../../core/calendar/say-day.ts';
import { dayOf, HOME_ZONE } from '../../../core/calendar/day.ts';
import { company } from '../../catalogue/company.ts';
import { today } from '../../kernel/clock.ts';
import type { Db } from '../../kernel/db/client.ts';
import { Paper } from '../../kernel/paper/paper.ts';
import { mm, writeAt } from '../../kernel/paper/pdf.ts';
import { drawSymbol, placeSymbol } from '../../kernel/paper/symbol.ts';
import { readJob } from '../read-job.ts';
import { readSettings } from '../settings.ts';

const SYMBOL = 24;

/**
 * What the customer takes home: which unit, what they said, what came with it, and the number they
 * ask by, as a code that opens its page where there is one.
 * @param base address of this Earmark, without a slash at its end
 * @throws Problem 404
 */
export async function receiptPdf(db: Db, number: string, base: string): Promise<Uint8Array> {
  const [{ job, warranties }, own, settings] = await Promise.all([
    readJob(db, number, today()),
    company(db),
    readSettings(db)
  ]);
  const paper = new Paper('Taken in for service', job.number);
  const top = paper.y;
  const tracking = job.tracking.replaceAll('-', '');
  const text = settings.tracking ? `${base}/track/${tracking}` : tracking;
  const symbol = drawSymbol({ form: 'plain', text, under: '', why: null }, 'qr');
  placeSymbol(paper.doc, symbol, paper.right - mm(SYMBOL), top, mm(SYMBOL), mm(SYMBOL));
  const ours = warranties?.ours;
  paper.facts([
    ['by', own.name],
    ['from', job.customerName],
    ['unit', `${job.product} ${job.productName}, serial ${job.serial}`],
    ['opened', sayDay(dayOf(new Date(job.openedAt), HOME_ZONE))],
    ...(job.promised ? [['promised for', sayDay(job.promised)] as const] : []),
    ...(ours?.state === 'running' ? [['warranty until', sayDay(ours.until)] as const] : []),
    ['ask by', job.tracking]
  ]);
  paper.y = Math.max(paper.y, top + mm(SYMBOL + 4));
  for (const [says, words] of [
    ['What is wrong', job.fault],
    ['Its condition', job.condition],
    ['What came with it', job.accessories]
  ] as const) {
    if (words === '') continue;
    paper.heading(says);
    paper.paragraph(words);
  }
  paper.space(60);
  paper.y += 26;
  const line = 'handed over by: ______________________________   date: ______________';
  writeAt(paper.doc, line, paper.left, paper.y);
  return paper.end(`Job ${job.number}`);
}
