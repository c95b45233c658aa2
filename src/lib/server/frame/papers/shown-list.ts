import { HOME_ZONE } from '../../../core/calendar/day.ts';
import type { ShownList } from '../../../core/tables/shown-list.ts';
import { apart } from '../../kernel/paper/draw-apart.ts';
import { INK, Paper, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { linesOf, mm, widthOf, writeAt, type TextStyle } from '../../kernel/paper/pdf.ts';

/** A list with what stands in the head of its paper. */
export interface PrintedList extends ShownList {
  screen: string;
  own: string;
  who: string;
}

const POINTS = 8.5;
/** From one line of a cell to the next. */
const LINE = POINTS * 1.35;
const GAP = mm(3);
/** Rows that are looked at to find how wide columns are. */
const LOOKED_AT = 200;

/** A list as a screen shows it: its columns as wide as what stands in them, its headings on every page. */
export async function drawShownList(list: PrintedList, now: Date): Promise<Uint8Array> {
  const paper = new Paper(list.title || list.screen, '', 'en', { lying: list.columns.length > 4 });
  paper.facts([
    ['from', `${list.screen}, ${list.own}`],
    ['as of', `${sayInstantAt(now, HOME_ZONE)}, for ${list.who}`],
    ['rows', `${list.rows.length}${list.note ? `. ${list.note}` : ''}`]
  ]);
  const columns = columnsOf(paper, list);
  writeHeadings(paper, columns);
  for (const row of list.rows) {
    const cells = columns.map(({ width }, at) => linesOf(paper.doc, row[at] ?? '', width, POINTS));
    if (paper.space(heightOf(cells))) writeHeadings(paper, columns);
    paper.y += writeCells(paper, columns, cells, {});
  }
  return paper.end(`${list.title || list.screen}, ${list.own}`);
}

interface Column {
  says: string;
  at: number;
  width: number;
}

/** Each gets what its longest text takes, and where that is too much all give of what they have over. */
function columnsOf(paper: Paper, { columns, rows }: ShownList): Column[] {
  const room = paper.right - paper.left - GAP * (columns.length - 1);
  const looked = rows.slice(0, LOOKED_AT);
  const wished = columns.map((says, at) =>
    Math.max(
      mm(8),
      widthOf(paper.doc, says, { face: 'bold', points: POINTS }),
      ...looked.map((row) => widthOf(paper.doc, row[at] ?? '', { points: POINTS }))
    )
  );
  let at = 0;
  return fitInto(wished, room).map((width, index) => {
    const column = { says: columns[index]!, at, width };
    at += width + GAP;
    return column;
  });
}

/**
 * Widths that together fit into a room: those under an even share keep what they wish, the rest
 * divide what is left by what they wish.
 */
export function fitInto(wished: readonly number[], room: number): number[] {
  const sum = (widths: readonly number[]): number => widths.reduce((all, one) => all + one, 0);
  if (sum(wished) <= room) return [...wished];
  const share = room / wished.length;
  const small = wished.filter((one) => one <= share);
  const left = room - sum(small);
  const large = sum(wished.filter((one) => one > share));
  return wished.map((one) => (one <= share ? one : (one / large) * left));
}

function writeHeadings(paper: Paper, columns: readonly Column[]): void {
  const cells = columns.map(({ says, width }) => linesOf(paper.doc, says, width, POINTS));
  paper.y += writeCells(paper, columns, cells, { face: 'bold', colour: SOFT });
  paper.rule(INK);
}

/** How high cells are together, in points. */
const heightOf = (cells: readonly string[][]): number =>
  Math.max(1, ...cells.map((lines) => lines.length)) * LINE + 3;

/** Writes a row, each cell over as many lines as it takes. @returns how high it is */
function writeCells(
  paper: Paper,
  columns: readonly Column[],
  cells: readonly string[][],
  style: TextStyle
): number {
  cells.forEach((lines, index) =>
    lines.forEach((line, row) => {
      if (line === '') return;
      const x = paper.left + columns[index]!.at;
      writeAt(paper.doc, line, x, paper.y + row * LINE, { ...style, points: POINTS });
    })
  );
  return heightOf(cells);
}

/** The same, drawn apart. */
export const shownListPdf = apart('shown-list', drawShownList);
