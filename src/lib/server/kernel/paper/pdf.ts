import { createRequire } from 'node:module';
import { join } from 'node:path';
import PDFDocument from 'pdfkit';

export type Face = 'sans' | 'bold' | 'mono';
type Pdf = InstanceType<typeof PDFDocument>;

/** Millimetres as points. */
export const mm = (value: number): number => (value * 72) / 25.4;

const files = createRequire(join(process.cwd(), 'package.json'));
const FAMILY: Record<Face, string> = {
  sans: 'ibm-plex-sans 400',
  bold: 'ibm-plex-sans 600',
  mono: 'ibm-plex-mono 500'
};
/**
 * The parts a font comes in, and which characters each has; what none has is drawn by the first.
 */
const SUBSETS: [string, RegExp][] = [
  [
    'latin',
    /[\u0020-\u00ff\u0131\u0152\u0153\u02bb-\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212]/
  ],
  ['latin-ext', /[\u0100-\u02af\u1e00-\u1eff\u20a0-\u20c0]/],
  ['cyrillic', /[\u0400-\u045f\u0490\u0491\u04b0\u04b1\u2116]/],
  ['greek', /[\u0370-\u03ff]/]
];

/** A new document in the product's own letters. `size` in points. */
export function newPdf(options: { title: string; size?: [number, number]; margin?: number }): Pdf {
  const doc = new PDFDocument({
    size: options.size ?? 'A4',
    margin: options.margin ?? mm(16),
    bufferPages: true,
    info: { Title: options.title, Producer: 'Earmark', Creator: 'Earmark' }
  });
  for (const [face, family] of Object.entries(FAMILY)) {
    const [name, weight] = family.split(' ');
    for (const [subset] of SUBSETS) {
      if (subset === 'greek' && name === 'ibm-plex-mono') continue; // it has none
      doc.registerFont(
        `${face} ${subset}`,
        files.resolve(`@fontsource/${name}/files/${name}-${subset}-${weight}-normal.woff`)
      );
    }
  }
  return doc;
}

/** A picture in a square, as large as it goes and no more. `size` in points. */
export function placePicture(
  doc: Pdf,
  { bytes }: { bytes: Uint8Array },
  x: number,
  y: number,
  size: number
): void {
  doc.image(Buffer.from(bytes), x, y, { fit: [size, size], align: 'right' });
}

/** Width of a letter of the mono face as part of its height. */
const MONO = 0.6;

/** How a text is written: 9 points of the sans face in ink, where nothing else is said. */
export interface TextStyle {
  face?: Face;
  points?: number;
  colour?: string;
  /** In points; an `align` to the right needs one. */
  width?: number;
  align?: 'left' | 'right';
}

/**
 * Writes one line of text at a place, each stretch in the part of the font that has its letters.
 * Answers its width in points.
 */
export function writeAt(
  doc: Pdf,
  text: string,
  x: number,
  y: number,
  { face = 'sans', points = 9, colour = '#1D2930', width, align = 'left' }: TextStyle = {}
): number {
  const runs = runsOf(text, face);
  const widths = runs.map((run) => widthOfRun(doc, run, face, points));
  const whole = widths.reduce((sum, one) => sum + one, 0);
  let at = align === 'right' && width !== undefined ? x + width - whole : x;
  runs.forEach((run, index) => {
    if (run.subset !== GAP)
      doc
        .font(`${face} ${run.subset}`)
        .fontSize(points)
        .fillColor(colour)
        .text(run.text, at, y, { lineBreak: false });
    at += widths[index]!;
  });
  return whole;
}

/**
 * The mono font file has no usable space (its glyph is empty and breaks the font reader): a space
 * is left blank instead of drawn.
 */
const GAP = 'gap';

function runsOf(text: string, face: Face): { subset: string; text: string }[] {
  const runs: { subset: string; text: string }[] = [];
  for (const character of text) {
    const subset =
      face === 'mono' && /[\s\u00a0\u00ad]/.test(character)
        ? GAP
        : (SUBSETS.find(([, has]) => has.test(character))?.[0] ?? 'latin');
    const last = runs.at(-1);
    if (last?.subset === subset) last.text += character;
    else runs.push({ subset, text: character });
  }
  return runs;
}

const widthOfRun = (
  doc: Pdf,
  run: { subset: string; text: string },
  face: Face,
  points: number
): number =>
  run.subset === GAP
    ? run.text.length * MONO * points
    : doc.font(`${face} ${run.subset}`).fontSize(points).widthOfString(run.text);

/** How wide a text is, in points. */
export const widthOf = (doc: Pdf, text: string, { face = 'sans', points = 9 }: TextStyle): number =>
  runsOf(text.slice(0, MOST_LETTERS), face).reduce(
    (sum, run) => sum + widthOfRun(doc, run, face, points),
    0
  );

/** No line of ours has room for more letters, so what is longer is not measured whole. */
const MOST_LETTERS = 500;

/** Shortens a text to a width in points. */
export function fitted(
  doc: Pdf,
  text: string,
  width: number,
  { face = 'sans', points = 9 }: TextStyle = {}
): string {
  const measure = (one: string) => widthOf(doc, one, { face, points });
  if (text.length <= MOST_LETTERS && measure(text) <= width) return text;
  // By halving, as the width grows with each letter: a word may be thousands of them long.
  let [fits, tooLong] = [1, Math.min(text.length, MOST_LETTERS)];
  while (tooLong - fits > 1) {
    const middle = Math.floor((fits + tooLong) / 2);
    if (measure(`${text.slice(0, middle)}…`) <= width) fits = middle;
    else tooLong = middle;
  }
  return `${text.slice(0, fits)}…`;
}

/** A text as lines of a width in points, broken between words where that can be done. */
export function linesOf(doc: Pdf, text: string, width: number, points: number): string[] {
  return text.split('\n').flatMap((part) => {
    const lines: string[] = [];
    let line = '';
    for (const word of part.split(/\s+/).flatMap((one) => piecesOf(doc, one, width, points))) {
      const longer = line ? `${line} ${word}` : word;
      const fits = fitted(doc, longer, width, { points }) === longer;
      if (!fits && line) lines.push(line);
      line = !fits && line ? word : longer;
    }
    return [...lines, line];
  });
}

/** A word that is longer than a line, in pieces that are not. */
function piecesOf(doc: Pdf, word: string, width: number, points: number): string[] {
  const pieces: string[] = [];
  let rest = word;
  for (;;) {
    const fits = fitted(doc, rest, width, { points });
    if (fits === rest) return [...pieces, rest];
    // At least one letter goes, however narrow the column is.
    const taken = Math.max(1, fits.length - 1);
    pieces.push(rest.slice(0, taken));
    rest = rest.slice(taken);
  }
}

/** Ends the document and answers its bytes. */
export function bytesOf(doc: Pdf): Promise<Uint8Array> {
  return new Promise((done, fail) => {
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => done(new Uint8Array(Buffer.concat(parts))));
    doc.on('error', fail);
    doc.end();
  });
}
