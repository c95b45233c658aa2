import { sayDayIn, sayNumberIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import { apart } from '../../kernel/paper/draw-apart.ts';
import { Paper, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { sayAddress } from '../../kernel/paper/say-address.ts';
import type { NoticeContent } from '../notices.ts';
import { at } from './page-parts.ts';

function titleOf({ mock, remindsOf }: NoticeContent, { notice }: PaperWords): string {
  if (mock) return remindsOf ? notice.drillReminder : notice.drill;
  return remindsOf ? notice.recallReminder : notice.recall;
}

/**
 * The letter to one customer, in the language they read: what is wrong, what to do, and which of
 * their goods it is about, to be sent back filled in. Letters of before are in English.
 */
export async function drawNotice(content: NoticeContent, sentAt: string): Promise<Uint8Array> {
  const language = content.language ?? 'en';
  const words = wordsIn(language);
  const paper = new Paper(titleOf(content, words), content.number, language);
  writeHead(paper, content, sentAt, words);
  if (content.mock) paper.paragraph(words.notice.isDrill);
  if (content.remindsOf) paper.paragraph(words.notice.weWrote(at(content.remindsOf, language)));
  paper.heading(words.notice.wrong);
  paper.paragraph(content.hazard);
  if (content.request) {
    paper.heading(words.notice.ask);
    paper.paragraph(content.request);
  }
  paper.heading(content.remindsOf ? words.notice.open : words.notice.goods);
  for (const one of content.goods) writeGoods(paper, one, words);
  askForAnswer(paper, words);
  return paper.end(`${content.number} · ${words.lines(content.goods.length)}`);
}

function writeHead(
  paper: Paper,
  { from, address, name, partner, toAddress, contact, title }: NoticeContent,
  sentAt: string,
  words: PaperWords
): void {
  paper.facts([
    [words.from, sayAddress(from, address)],
    [words.to, sayAddress(`${name} (${partner})`, toAddress)],
    ...(contact ? [[words.for, contact] as const] : []),
    [words.date, at(sentAt, paper.language)],
    [words.about, title]
  ]);
}

function writeGoods(paper: Paper, one: NoticeContent['goods'][number], words: PaperWords): void {
  const { doc, left } = paper;
  paper.space(16);
  writeAt(doc, one.number ?? words.withoutNumber, left, paper.y, {
    face: one.number ? 'mono' : 'sans',
    points: 9.5
  });
  writeAt(doc, fitted(doc, `${one.product} ${one.productName}`, mm(62)), left + mm(42), paper.y);
  const leftOn = `${one.document}, ${sayDayIn(one.day, paper.language)}`;
  writeAt(doc, fitted(doc, leftOn, mm(44)), left + mm(106), paper.y, { colour: SOFT });
  paper.atRight(`${sayNumberIn(one.quantity, paper.language)} ${one.unit}`, { face: 'bold' });
  paper.y += 15;
}

/** Room to say what became of the goods, to be sent back. */
function askForAnswer(paper: Paper, { notice }: PaperWords): void {
  const { doc, left, right } = paper;
  paper.heading(notice.answer);
  for (const says of [notice.returned, notice.destroyed, notice.gone]) {
    paper.space(24);
    const width = writeAt(doc, says, left, paper.y);
    doc
      .moveTo(left + Math.max(mm(60), width + mm(4)), paper.y + 11)
      .lineTo(right, paper.y + 11)
      .lineWidth(0.6)
      .stroke(SOFT);
    paper.y += 24;
  }
}

/** The same, drawn apart. */
export const noticePdf = apart('notice', drawNotice);
