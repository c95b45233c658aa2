import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { Paper, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import type { NoticeContent } from '../notices.ts';
import { at } from './page-parts.ts';

const linesOf = (address: string | undefined): string[] =>
  (address ?? '').split('\n').filter(Boolean);

const titleOf = ({ mock, remindsOf }: NoticeContent): string => {
  const letter = remindsOf ? 'reminder' : 'notice';
  return mock ? `Recall drill: ${letter}` : `Recall ${letter}`;
};

/**
 * The letter to one customer: what is wrong, what to do, and which of their goods it is about, to
 * be sent back filled in.
 */
export async function drawNotice(content: NoticeContent, sentAt: string): Promise<Uint8Array> {
  const paper = new Paper(titleOf(content), content.number);
  paper.facts([
    ['from', [content.from, ...linesOf(content.address)].join(', ')],
    ['to', [`${content.name} (${content.partner})`, ...linesOf(content.toAddress)].join(', ')],
    ...(content.contact ? [['for', content.contact] as const] : []),
    ['date', at(sentAt)],
    ['about', content.title]
  ]);
  if (content.mock)
    paper.paragraph(
      'This is a drill. Nothing is wrong with your goods, and nothing needs to be done with them.'
    );
  if (content.remindsOf)
    paper.paragraph(
      `We wrote to you on ${at(content.remindsOf)}. What is listed below is still open: please tell us what became of it, or send it back.`
    );
  paper.heading('What is wrong');
  paper.paragraph(content.hazard);
  if (content.request) {
    paper.heading('What we ask you to do');
    paper.paragraph(content.request);
  }
  paper.heading(
    content.remindsOf ? 'What is still open, by our records' : 'What you have of it, by our records'
  );
  writeGoods(paper, content.goods);
  askForAnswer(paper);
  return paper.end(
    `${content.number} · ${content.goods.length} ${content.goods.length === 1 ? 'line' : 'lines'}`
  );
}

function writeGoods(paper: Paper, goods: NoticeContent['goods']): void {
  const { doc, left, right } = paper;
  for (const one of goods) {
    paper.space(16);
    writeAt(doc, one.number ?? 'without number', left, paper.y, {
      face: one.number ? 'mono' : 'sans',
      points: 9.5
    });
    writeAt(doc, fitted(doc, `${one.product} ${one.productName}`, mm(62)), left + mm(42), paper.y);
    writeAt(
      doc,
      fitted(doc, `${one.document}, ${sayDay(one.day)}`, mm(44)),
      left + mm(106),
      paper.y,
      { colour: SOFT }
    );
    writeAt(doc, `${one.quantity} ${one.unit}`, left, paper.y, {
      width: right - left,
      align: 'right',
      face: 'bold'
    });
    paper.y += 15;
  }
}

/** Room to say what became of the goods, to be sent back. */
function askForAnswer(paper: Paper): void {
  const { doc, left, right } = paper;
  paper.heading('Your answer');
  for (const says of ['returned to us', 'destroyed with you', 'used or not found, and why']) {
    paper.space(24);
    writeAt(doc, says, left, paper.y);
    doc
      .moveTo(left + mm(60), paper.y + 11)
      .lineTo(right, paper.y + 11)
      .lineWidth(0.6)
      .stroke(SOFT);
    paper.y += 24;
  }
}

/** The same, drawn apart. */
export const noticePdf = apart('notice', drawNotice);
