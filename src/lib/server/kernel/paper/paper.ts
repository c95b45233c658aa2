import { sayInstantIn } from '../../../core/papers/say-in.ts';
import type { Language } from '../../../core/papers/language.ts';
import { wordsIn } from '../../../core/papers/words.ts';
import { bytesOf, fitted, linesOf, mm, newPdf, writeAt, type TextStyle } from './pdf.ts';

/** Width between the margins in millimetres, and the inks of our papers. */
export const PAPER_WIDTH = 210 - 2 * 16;
export const INK = '#1D2930',
  SOFT = '#55626A',
  LINE = '#DDD5C7',
  BRASS = '#85520A',
  RUST = '#A8321F';

/** An instant as our papers say it, in the site's zone. */
export const sayInstantAt = (at: Date, zone: string): string => sayInstantIn(at, zone, 'en');

/**
 * A paper of ours as it is written from the top down: A4, title and number above, a foot with its
 * pages.
 */
export class Paper {
  readonly doc: ReturnType<typeof newPdf>;
  readonly left = mm(16);
  readonly right: number;
  /** Height of the page in millimetres. */
  private readonly high: number;
  y = mm(16);

  constructor(
    readonly title: string,
    readonly number: string,
    readonly language: Language = 'en',
    /** A list of many columns lies on its side. */
    { lying = false }: { lying?: boolean } = {}
  ) {
    const [wide, high] = lying ? [297, 210] : [210, 297];
    this.right = mm(wide - 16);
    this.high = high;
    this.doc = newPdf({ title: `${title} ${number}`.trim(), size: [mm(wide), mm(high)] });
    writeAt(this.doc, title, this.left, this.y, { face: 'bold', points: 17 });
    writeAt(this.doc, number, this.left, this.y + 1, {
      face: 'mono',
      points: 15,
      width: this.right - this.left,
      align: 'right'
    });
    this.y += 28;
  }

  /** Begins a new page where so many points no longer fit. @returns whether it did */
  space(needed: number): boolean {
    if (this.y + needed <= mm(this.high - 18)) return false;
    this.doc.addPage();
    this.y = mm(16);
    return true;
  }

  rule(colour = LINE): void {
    this.doc.moveTo(this.left, this.y).lineTo(this.right, this.y).lineWidth(0.6).stroke(colour);
    this.y += 4;
  }

  /** A rule and what stands under it. */
  heading(text: string): void {
    this.space(50);
    this.y += 4;
    this.rule(INK);
    writeAt(this.doc, text, this.left, this.y, { face: 'bold', points: 12 });
    this.y += 20;
  }

  /** A text over as many lines as it takes. */
  paragraph(text: string, points = 10): void {
    for (const line of linesOf(this.doc, text, this.right - this.left, points)) {
      this.space(16);
      if (line) writeAt(this.doc, line, this.left, this.y, { points });
      this.y += points * 1.45;
    }
    this.y += 4;
  }

  /** Facts of the head, one below the other; a long one, an address say, takes several lines. */
  facts(rows: readonly (readonly [string, string])[]): void {
    const style = { points: 9.5 };
    for (const [says, value] of rows) {
      this.space(16);
      const name = fitted(this.doc, says, mm(38));
      writeAt(this.doc, name, this.left, this.y, { colour: SOFT });
      for (const line of linesOf(this.doc, value, this.right - this.left - mm(40), style.points)) {
        this.space(16);
        if (line) writeAt(this.doc, line, this.left + mm(40), this.y, style);
        this.y += 14;
      }
    }
    this.y += 6;
  }

  /** A cell of a row, cut to its width; both in millimetres, from the left margin. */
  cell(text: string, from: number, width: number, style: TextStyle = {}): void {
    const cut = fitted(this.doc, text, mm(width), style);
    writeAt(this.doc, cut, this.left + mm(from), this.y, { ...style, width: mm(width) });
  }

  /** The last cell of a row, at the right margin. */
  atRight(text: string, style: TextStyle = {}): void {
    const width = this.right - this.left;
    writeAt(this.doc, text, this.left, this.y, { ...style, width, align: 'right' });
  }

  /** Numbers the pages and answers the bytes. */
  async end(foot: string): Promise<Uint8Array> {
    const pages = this.doc.bufferedPageRange().count;
    for (let page = 0; page < pages; page++) {
      this.doc.switchToPage(page);
      this.doc.page.margins.bottom = 0; // the foot stands in the margin
      writeAt(this.doc, foot, this.left, mm(this.high - 12), { points: 8, colour: SOFT });
      writeAt(
        this.doc,
        wordsIn(this.language).page(page + 1, pages),
        this.left,
        mm(this.high - 12),
        {
          points: 8,
          colour: SOFT,
          width: this.right - this.left,
          align: 'right'
        }
      );
    }
    return bytesOf(this.doc);
  }
}
