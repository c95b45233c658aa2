import bwip from 'bwip-js/node';
import { SEPARATOR } from '../../../core/gs1/element-string.ts';
import type { newPdf } from './pdf.ts';
import type { LabelData, LabelSymbol } from '../../../core/labels/label.ts';

/**
 * A symbol as paths to draw: filled areas, and strokes for bars. `modules` is its width in
 * narrowest elements.
 */
export interface DrawnSymbol {
  width: number;
  height: number;
  modules: number;
  paths: { d: string; stroke: number | null }[];
}

const SIDE = 4;

/**
 * What the drawing library is told: the element string with function characters in their places, or
 * the text as it is.
 */
export function symbolOptions(
  data: LabelData,
  symbol: LabelSymbol
): { bcid: string; text: string; parsefnc?: boolean; eclevel?: string } {
  const bcid = { datamatrix: 'datamatrix', 'gs1-128': 'code128', qr: 'qrcode' }[symbol];
  if (data.form !== 'gs1')
    return { bcid, text: data.text, ...(symbol === 'qr' ? { eclevel: 'M' } : {}) };
  // By function characters rather than brackets, as a number may hold brackets itself.
  return {
    bcid,
    parsefnc: true,
    text: `^FNC1${data.text.replaceAll('^', '^^').replaceAll(SEPARATOR, '^FNC1')}`
  };
}

/** Draws a label's symbol as paths. */
export function drawSymbol(data: LabelData, symbol: LabelSymbol): DrawnSymbol {
  const svg = bwip.toSVG({
    ...symbolOptions(data, symbol),
    scale: SIDE / 2,
    ...(symbol === 'gs1-128' ? { height: 15 } : {})
  });
  const drawn = readSvg(svg);
  return { ...drawn, modules: drawn.width / (symbol === 'gs1-128' ? SIDE / 2 : SIDE) };
}

/** The paths of a symbol the drawing library made. */
export function readSvg(svg: string): Omit<DrawnSymbol, 'modules'> {
  const [, width, height] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg)!;
  const paths = [...svg.matchAll(/<path ([^>]*?)\/?>/g)].map(([, attributes]) => {
    const stroke = /stroke-width="([\d.]+)"/.exec(attributes!)?.[1];
    return {
      d: /\bd="([^"]+)"/.exec(attributes!)![1]!,
      stroke: stroke === undefined ? null : Number(stroke)
    };
  });
  return { width: Number(width), height: Number(height), paths };
}

/** Puts a drawn symbol on a page; measures in points. */
export function placeSymbol(
  doc: ReturnType<typeof newPdf>,
  drawn: Omit<DrawnSymbol, 'modules'>,
  x: number,
  y: number,
  width: number,
  height: number
): void {
  doc
    .save()
    .translate(x, y)
    .scale(width / drawn.width, height / drawn.height);
  for (const path of drawn.paths) {
    if (path.stroke === null) doc.path(path.d).fill('#000', 'even-odd');
    else doc.path(path.d).lineWidth(path.stroke).stroke('#000');
  }
  doc.restore();
}
