import { groupBy } from '../../../core/group-by.ts';
import { sayDayIn, sayInstantIn, sayNumberIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import { apart } from '../../kernel/paper/draw-apart.ts';
import { BRASS, INK, Paper, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt, type TextStyle } from '../../kernel/paper/pdf.ts';
import { sayAddress } from '../../kernel/paper/say-address.ts';
import type { Confirmation, ConfirmedLine, ConfirmedReceipt } from '../read-confirmation.ts';

/** Where the columns of quantities end, in millimetres from the left margin. */
const ENDS = { ordered: 118, received: 148, toCome: 178 };

/**
 * What a supplier is told of their deliveries on an order, in the language they read: ordered beside
 * received, line by line, and what came with each delivery.
 */
export async function drawConfirmation(said: Confirmation): Promise<Uint8Array> {
  const words = wordsIn(said.language);
  const paper = new Paper(words.receipt.title, said.number, said.language);
  writeHead(paper, said, words);
  writeColumns(paper, words);
  for (const line of said.lines) writeLine(paper, line, words);
  paper.heading(words.receipt.receipts);
  if (said.receipts.length === 0) paper.paragraph(words.receipt.nothing);
  for (const receipt of groupBy(said.receipts, (one) => one.event).values())
    writeReceipt(paper, receipt, said.zone, words);
  return paper.end(`${said.number} · ${words.lines(said.lines.length)}`);
}

function writeHead(paper: Paper, said: Confirmation, words: PaperWords): void {
  const { partner, language } = said;
  const open = said.lines.filter((line) => line.toCome !== '0').length;
  const to = `${partner.name} (${partner.code})`;
  paper.facts([
    [words.from, sayAddress(said.from, said.address)],
    [words.to, sayAddress(to, partner.address, partner.contact)],
    [words.receipt.order, `${said.number}, ${words.receipt.due(sayDayIn(said.due, language))}`],
    [words.receipt.asOf, sayInstantIn(said.now, said.zone, language)]
  ]);
  paper.paragraph(open === 0 ? words.receipt.complete : words.receipt.open(open), 11);
}

function writeColumns(paper: Paper, { receipt }: PaperWords): void {
  const soft = { colour: SOFT };
  endAt(paper, receipt.ordered, ENDS.ordered, soft);
  endAt(paper, receipt.received, ENDS.received, soft);
  endAt(paper, receipt.toCome, ENDS.toCome, soft);
  paper.y += 14;
  paper.rule(INK);
}

function writeLine(paper: Paper, line: ConfirmedLine, words: PaperWords): void {
  const { doc, left } = paper;
  const amount = (text: string): string => `${sayNumberIn(text, paper.language)} ${line.unit}`;
  paper.space(30);
  const width = writeAt(doc, line.product, left, paper.y, { face: 'mono', points: 9.5 });
  const room = mm(ENDS.ordered - 26) - width - 8;
  writeAt(doc, fitted(doc, line.name, room), left + width + 8, paper.y);
  endAt(paper, amount(line.ordered), ENDS.ordered);
  endAt(paper, amount(line.received), ENDS.received, { face: 'bold' });
  const colour = line.toCome === '0' ? SOFT : BRASS;
  endAt(paper, amount(line.toCome), ENDS.toCome, { colour });
  paper.y += 13;
  if (line.over !== null) {
    endAt(paper, words.receipt.over(amount(line.over)), ENDS.toCome, { colour: BRASS });
    paper.y += 13;
  }
}

/** One delivery: its papers, ours and theirs, and what it brought. */
function writeReceipt(
  paper: Paper,
  rows: readonly ConfirmedReceipt[],
  zone: string,
  words: PaperWords
): void {
  const { paper: ours, reference, at } = rows[0]!;
  const theirs = reference ? ` · ${words.receipt.yourNote(reference)}` : '';
  paper.space(34);
  paper.cell(`${sayInstantIn(at, zone, paper.language)} · ${ours}${theirs}`, 0, 178, {
    face: 'bold'
  });
  paper.y += 14;
  for (const row of rows) {
    paper.space(14);
    paper.cell(row.product, 4, 40, { face: 'mono' });
    paper.cell(row.lot ? words.lot(row.lot) : '', 46, 90, { colour: SOFT });
    endAt(paper, `${sayNumberIn(row.quantity, paper.language)} ${row.unit}`, ENDS.toCome);
    paper.y += 13;
  }
  paper.y += 4;
}

/** Writes what ends at a place, in millimetres from the left margin. */
function endAt(paper: Paper, text: string, end: number, style: TextStyle = {}): void {
  const placed = { ...style, width: mm(end), align: 'right' } as const;
  writeAt(paper.doc, text, paper.left, paper.y, placed);
}

/** The same, drawn apart. */
export const confirmationPdf = apart('confirmation', drawConfirmation);
