import { apart } from '../../kernel/paper/draw-apart.ts';
import type { Listed } from '../../kernel/db/listed.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { CountLine } from '../../../core/stock/count-line.ts';
import type { Db } from '../../kernel/db/client.ts';
import { INK, LINE, Paper, PAPER_WIDTH, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { isHidden, readCountHead, type CountHead } from '../counts/count-head.ts';
import { readCountLines } from '../counts/count-lines.ts';

/** Where the columns begin, in millimetres from the left margin. */
const AT = { number: 0, product: 52, expected: 112, counted: 138 };
/** Empty rows for what is found beyond the list, at each place. */
const SPARE_ROWS = 3;
const ROW = 20;

/**
 * A count on paper: place by place what is to be counted, with room for the figure; of a blind
 * count without what should be there.
 * @throws Problem 404
 */
export async function countSheetPdf(db: Db, document: string): Promise<Uint8Array> {
  const head = await readCountHead(db, document);
  return drawn(head, await readCountLines(db, head));
}

export async function drawCountSheet(
  head: CountHead,
  { rows: lines, total }: Listed<CountLine>
): Promise<Uint8Array> {
  const paper = new Paper('Count', head.document);
  paper.facts([
    ['opened by', head.openedBy],
    ['counted by', '______________________________   on  ____________________'],
    ...(isHidden(head) ? [['blind', 'write what you find; the list does not say how much']] : []),
    ...(lines.length < total
      ? [
          [
            'cut',
            `${lines.length} of ${total} lines are on this paper; print fewer places at a time`
          ]
        ]
      : [])
  ] as [string, string][]);
  const ofPlace = groupBy(lines, (line) => line.place);
  for (const place of head.places) {
    placeHead(paper, `${place.siteName}, ${place.name}`, place.code, head);
    for (const line of ofPlace.get(place.code) ?? []) countRow(paper, line, head);
    for (let spare = 0; spare < SPARE_ROWS; spare++) spareRow(paper);
    paper.y += 14;
  }
  return paper.end(`Count ${head.document}`);
}

function placeHead(paper: Paper, name: string, code: string, head: CountHead): void {
  paper.space(90);
  const { doc, left, right } = paper;
  const end = writeAt(doc, code, left, paper.y, { face: 'mono', points: 12 });
  writeAt(doc, name, left + end + 8, paper.y, { face: 'bold', points: 12 });
  paper.y += 20;
  const column = (text: string, at: number) =>
    writeAt(doc, text, left + mm(at), paper.y, { points: 8, colour: SOFT });
  column('lot or serial', AT.number);
  column('product', AT.product);
  if (!isHidden(head)) column('expected', AT.expected);
  column('counted', AT.counted);
  paper.y += 12;
  doc.moveTo(left, paper.y).lineTo(right, paper.y).lineWidth(0.8).stroke(INK);
  paper.y += 5;
}

function countRow(paper: Paper, line: CountLine, head: CountHead): void {
  paper.space(ROW + 6);
  const { doc, left } = paper;
  const number = line.serial ?? line.lot ?? 'no number';
  const narrow = (text: string, width: number, face: 'mono' | 'sans') =>
    fitted(doc, text, mm(width), { face, points: 9.5 });
  writeAt(doc, narrow(number, AT.product - 2, 'mono'), left, paper.y, {
    face: 'mono',
    points: 9.5
  });
  const what = narrow(`${line.product} ${line.name}`, AT.expected - AT.product - 2, 'sans');
  writeAt(doc, what, left + mm(AT.product), paper.y, { points: 9.5 });
  if (!isHidden(head))
    writeAt(doc, `${line.expected} ${line.unit}`, left + mm(AT.expected), paper.y, {
      points: 9.5
    });
  writeAt(doc, line.counted ?? '', left + mm(AT.counted), paper.y, { points: 9.5 });
  under(paper);
}

function spareRow(paper: Paper): void {
  paper.space(ROW + 6);
  under(paper);
}

/** The line a figure is written on. */
function under(paper: Paper): void {
  const { doc, left } = paper;
  const y = paper.y + 14;
  doc
    .moveTo(left, y)
    .lineTo(left + mm(PAPER_WIDTH), y)
    .lineWidth(0.5)
    .stroke(LINE);
  paper.y += ROW;
}

const drawn = apart('count-sheet', drawCountSheet);
