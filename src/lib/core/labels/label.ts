import { sayDay } from '../calendar/say-day.ts';
import {
  bracketed,
  digitalLink,
  elementString,
  unfitForLink,
  unfitForSymbol
} from '../gs1/write-symbol.ts';

export const LABEL_SYMBOLS = ['datamatrix', 'gs1-128', 'qr'] as const;
export type LabelSymbol = (typeof LABEL_SYMBOLS)[number];

/** Sizes in millimetres, width by height. */
export const LABEL_SIZES = {
  '50x25': [50, 25],
  '70x40': [70, 40],
  '100x50': [100, 50],
  '100x150': [100, 150]
} as const satisfies Record<string, readonly [number, number]>;
export type LabelSize = keyof typeof LABEL_SIZES;

/** What a label tells of one lot or serial. */
export interface LabelMark {
  id: number;
  kind: 'lot' | 'serial';
  number: string;
  lot: string | null;
  product: string;
  name: string;
  gtin: string | null;
  expires: string | null;
  supplierNumber: string | null;
  facts: readonly string[];
}

/**
 * What is encoded: `gs1` an element string, `link` a Digital Link, `plain` the bare number. `under`
 * is what people read beneath.
 */
export interface LabelData {
  form: 'gs1' | 'link' | 'plain';
  text: string;
  under: string;
  why: string | null;
}

/**
 * What a label's symbol says. A GS1 symbol needs the product's GTIN and numbers that fit one;
 * without, the symbol is the bare number, and why is said.
 * @param base address of the Digital Link resolver
 */
export function labelData(mark: LabelMark, symbol: LabelSymbol, base: string): LabelData {
  const lot = mark.kind === 'lot' ? mark.number : mark.lot;
  const serial = mark.kind === 'serial' ? mark.number : null;
  const why =
    mark.gtin === null
      ? `${mark.product} has no GTIN`
      : ([lot, serial].flatMap((number) =>
          number === null
            ? []
            : (unfitForSymbol(number) ?? (symbol === 'qr' ? unfitForLink(number) : null) ?? [])
        )[0] ?? null);
  if (why !== null) return { form: 'plain', text: mark.number, under: mark.number, why };
  const elements = {
    gtin: mark.gtin!,
    ...(lot ? { lot } : {}),
    ...(serial ? { serial } : {}),
    ...(mark.expires ? { expires: mark.expires } : {})
  };
  return symbol === 'qr'
    ? { form: 'link', text: digitalLink(base, elements), under: bracketed(elements), why: null }
    : { form: 'gs1', text: elementString(elements), under: bracketed(elements), why: null };
}

/**
 * A line of text on a label: millimetres from the upper left corner to its baseline, height of the
 * letters in points.
 */
export interface LabelText {
  x: number;
  y: number;
  points: number;
  text: string;
  face: 'sans' | 'bold' | 'mono';
}
/** Where things stand on a label, in millimetres. */
export interface LabelLayout {
  width: number;
  height: number;
  symbol: { x: number; y: number; width: number; height: number };
  texts: LabelText[];
}

const MARGIN = 2.5;
const MM_PER_POINT = 25.4 / 72;
/**
 * Width of a letter as part of its height, on the safe side: Plex Mono is exactly 0.6, Plex Sans a
 * little less on average.
 */
const LETTER = { mono: 0.6, sans: 0.55, bold: 0.6 };

/**
 * Lays a label out: the number large, the product, lot, dates and facts beneath, the symbol where
 * it is easiest to scan.
 */
export function layoutLabel(
  mark: LabelMark,
  data: LabelData,
  symbol: LabelSymbol,
  size: LabelSize
): LabelLayout {
  const [width, height] = LABEL_SIZES[size];
  const scale = Math.min(width / 70, height / 40, 1.6);
  const wide = symbol === 'gs1-128';
  const square = Math.min(height - 2 * MARGIN - (height > width ? height / 2 : 0), width * 0.4);
  const box = wide
    ? { x: MARGIN + 1.5, width: width - 2 * MARGIN - 3, height: Math.min(height * 0.36, 30), y: 0 }
    : {
        x: height > width ? (width - square) / 2 : width - MARGIN - square,
        width: square,
        height: square,
        y: height > width ? height - MARGIN - square - 6 : (height - square) / 2
      };
  if (wide) box.y = height - MARGIN - box.height - 3 * scale;
  const left = MARGIN,
    right = wide || height > width ? width - MARGIN : box.x - 2;
  const texts: LabelText[] = [];
  let y = MARGIN;
  const line = (text: string, points: number, face: LabelText['face']) => {
    if (text === '') return;
    const fitted = Math.max(
      4.5,
      Math.min(points, (right - left) / (text.length * LETTER[face] * MM_PER_POINT))
    );
    y += fitted * MM_PER_POINT * 1.22;
    if (y > (wide ? box.y - 0.6 : height > width ? box.y - 1 : height - MARGIN)) return;
    texts.push({
      x: left,
      y: round(y),
      points: round(fitted),
      text: clip(text, (right - left) / (fitted * LETTER[face] * MM_PER_POINT)),
      face
    });
  };
  line(mark.number, 15 * scale, 'mono');
  line(mark.product, 10 * scale, 'bold');
  line(mark.name, 8.5 * scale, 'sans');
  if (mark.kind === 'serial' && mark.lot) line(`lot ${mark.lot}`, 8 * scale, 'sans');
  if (mark.expires) line(`expires ${sayDay(mark.expires)}`, 8 * scale, 'sans');
  if (mark.supplierNumber) line(`theirs ${mark.supplierNumber}`, 7 * scale, 'sans');
  for (const fact of mark.facts) line(fact, 7 * scale, 'sans');
  if (wide)
    texts.push({
      x: box.x,
      y: round(height - MARGIN),
      points: round(
        Math.min(6.5 * scale, box.width / (data.under.length * LETTER.mono * MM_PER_POINT))
      ),
      text: data.under,
      face: 'mono'
    });
  else if (height > width)
    texts.push({
      x: left,
      y: round(height - MARGIN),
      points: round(
        Math.min(8, (width - 2 * MARGIN) / (data.under.length * LETTER.mono * MM_PER_POINT))
      ),
      text: data.under,
      face: 'mono'
    });
  return {
    width,
    height,
    symbol: {
      x: round(box.x),
      y: round(box.y),
      width: round(box.width),
      height: round(box.height)
    },
    texts
  };
}

const round = (value: number): number => Math.round(value * 100) / 100;
const clip = (text: string, most: number): string =>
  text.length <= Math.floor(most + 0.001)
    ? text
    : `${text.slice(0, Math.max(1, Math.floor(most) - 1))}…`;

/**
 * Narrowest bar or cell a common scanner still reads, in mm; below it a larger label or another
 * symbol is asked for. Common practice.
 */
export const NARROWEST_MODULE = 0.17;
