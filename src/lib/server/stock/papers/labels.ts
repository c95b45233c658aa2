import { apart } from '../../kernel/paper/draw-apart.ts';
import {
  LABEL_SIZES,
  labelData,
  layoutLabel,
  NARROWEST_MODULE,
  type LabelLayout,
  type LabelMark,
  type LabelSize,
  type LabelSymbol
} from '../../../core/labels/label.ts';
import { ownBase } from '../../kernel/own-base.ts';
import { bytesOf, mm, newPdf, writeAt } from '../../kernel/paper/pdf.ts';
import { drawSymbol, placeSymbol, type DrawnSymbol } from '../../kernel/paper/symbol.ts';

interface Drawn {
  layout: LabelLayout;
  symbol: DrawnSymbol;
  /** Width of the narrowest bar or cell, in mm. */ module: number;
  why: string | null;
}

/** One label as it will be drawn, and whether a scanner could read it. */
export function drawLabel(mark: LabelMark, symbol: LabelSymbol, size: LabelSize): Drawn {
  const data = labelData(mark, symbol, ownBase());
  const layout = layoutLabel(mark, data, symbol, size);
  const drawn = drawSymbol(data, symbol);
  return { layout, symbol: drawn, module: layout.symbol.width / drawn.modules, why: data.why };
}

/** Why a label of this size could not be read; null where it can. */
export function unreadable({ module }: Drawn): string | null {
  return module >= NARROWEST_MODULE
    ? null
    : `its narrowest bar would be ${module.toFixed(2)} mm wide and ${NARROWEST_MODULE} mm is the least a scanner reads`;
}

/** What can be said of a label before it is printed. */
export interface Judged {
  /** Why no scanner could read it; null where one can. */
  unreadable: string | null;
  /** Why its symbol is the plain one; null where it is not. */
  plain: string | null;
}

/** What can be said of labels, one by one; as JSON, as everything that is drawn comes as bytes. */
export async function drawJudgement(
  marks: readonly LabelMark[],
  symbol: LabelSymbol,
  size: LabelSize
): Promise<Uint8Array> {
  const judged = marks.map((mark): Judged => {
    const drawn = drawLabel(mark, symbol, size);
    return { unreadable: unreadable(drawn), plain: drawn.why };
  });
  return new TextEncoder().encode(JSON.stringify(judged));
}

const judgementApart = apart('label-judgement', drawJudgement);

/** The same, drawn in a thread: two thousand symbols take seconds. */
export async function judgeLabels(...asked: Parameters<typeof drawJudgement>): Promise<Judged[]> {
  return JSON.parse(new TextDecoder().decode(await judgementApart(...asked))) as Judged[];
}

/** All labels as one PDF, a page each. */
export async function drawLabels(
  marks: readonly LabelMark[],
  symbol: LabelSymbol,
  size: LabelSize,
  copies: number
): Promise<Uint8Array> {
  const doc = newPdf({
    title: `Labels ${size}`,
    size: [mm(LABEL_SIZES[size][0]), mm(LABEL_SIZES[size][1])],
    margin: 0
  });
  let first = true;
  for (const mark of marks) {
    const { layout, symbol: drawn } = drawLabel(mark, symbol, size);
    for (let copy = 0; copy < copies; copy++) {
      if (!first) doc.addPage();
      first = false;
      for (const text of layout.texts)
        writeAt(doc, text.text, mm(text.x), mm(text.y) - text.points, {
          face: text.face,
          points: text.points,
          colour: '#000'
        });
      placeSymbol(
        doc,
        drawn,
        mm(layout.symbol.x),
        mm(layout.symbol.y),
        mm(layout.symbol.width),
        mm(layout.symbol.height)
      );
    }
  }
  return bytesOf(doc);
}

/** One label as a picture for the screen, the same layout as on paper. */
export function labelSvg(mark: LabelMark, symbol: LabelSymbol, size: LabelSize): string {
  const { layout, symbol: drawn } = drawLabel(mark, symbol, size);
  const family = { sans: 'IBM Plex Sans', bold: 'IBM Plex Sans', mono: 'IBM Plex Mono' };
  const texts = layout.texts.map(
    (text) =>
      `<text x="${text.x}" y="${text.y}" font-family="${family[text.face]}" font-size="${round((text.points * 25.4) / 72)}"${text.face === 'bold' ? ' font-weight="600"' : ''}>${escape(text.text)}</text>`
  );
  const paths = drawn.paths.map((path) =>
    path.stroke === null
      ? `<path d="${path.d}" fill-rule="evenodd"/>`
      : `<path d="${path.d}" fill="none" stroke="#000" stroke-width="${path.stroke}"/>`
  );
  const box = layout.symbol;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${layout.width} ${layout.height}" role="img" aria-label="Label of ${escape(mark.number)}"><rect width="${layout.width}" height="${layout.height}" fill="#fff"/>${texts.join('')}` +
    `<svg x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}" viewBox="0 0 ${drawn.width} ${drawn.height}" preserveAspectRatio="none">${paths.join('')}</svg></svg>`
  );
}

const round = (value: number): number => Math.round(value * 100) / 100;
const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The same, drawn apart. */
export const labelsPdf = apart('labels', drawLabels);
