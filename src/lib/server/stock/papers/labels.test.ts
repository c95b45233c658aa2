import { createRequire } from 'node:module';
import zxing from '@zxing/library';
import bwip from 'bwip-js/node';
import fc from 'fast-check';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { readElementString, SEPARATOR } from '../../../core/gs1/element-string.ts';
import { makeSscc, readSscc } from '../../../core/gs1/sscc.ts';
import {
  bracketed,
  digitalLink,
  elementString,
  unfitForSymbol
} from '../../../core/gs1/write-symbol.ts';
import {
  LABEL_SIZES,
  LABEL_SYMBOLS,
  labelData,
  layoutLabel,
  type LabelMark,
  type LabelSize,
  type LabelSymbol
} from '../../../core/labels/label.ts';
import { drawLabel, labelsPdf, labelSvg, unreadable } from './labels.ts';
import { symbolOptions } from '../../kernel/paper/symbol.ts';
import { unitSymbolText } from '../../shipping/papers/unit-label.ts';

const {
  BinaryBitmap,
  Code128Reader,
  DataMatrixReader,
  DecodeHintType,
  GlobalHistogramBinarizer,
  QRCodeReader,
  RGBLuminanceSource
} = zxing;
const READERS = { datamatrix: DataMatrixReader, 'gs1-128': Code128Reader, qr: QRCodeReader };
const TODAY = '2026-11-23',
  BASE = 'https://id.earmark.example';
const mark = (more: Partial<LabelMark> = {}): LabelMark => ({
  id: 1,
  kind: 'serial',
  number: 'TN-004417',
  lot: 'L-26',
  product: 'TN150',
  name: 'lifejacket Tern 150',
  gtin: '09506000134352',
  expires: '2030-12-31',
  supplierNumber: null,
  facts: [],
  ...more
});

/**
 * Draws a symbol with the drawing library and reads it back with a reader that has nothing to do
 * with it.
 */
const readBack = (data: ReturnType<typeof labelData>, symbol: LabelSymbol): Promise<string> =>
  readDrawn(
    { ...symbolOptions(data, symbol), ...(symbol === 'gs1-128' ? { height: 15 } : {}) },
    symbol
  );

async function readDrawn(
  options: Parameters<typeof bwip.toBuffer>[0],
  symbol: LabelSymbol
): Promise<string> {
  const png = PNG.sync.read(
    await bwip.toBuffer({ ...options, scale: 5, padding: 30, backgroundcolor: 'FFFFFF' })
  );
  const grey = new Uint8ClampedArray(png.width * png.height);
  for (let at = 0; at < grey.length; at++) grey[at] = png.data[at * 4]!;
  const bitmap = new BinaryBitmap(
    new GlobalHistogramBinarizer(new RGBLuminanceSource(grey, png.width, png.height))
  );
  return new READERS[symbol]()
    .decode(
      bitmap,
      new Map([
        [DecodeHintType.ASSUME_GS1, true],
        ...(symbol === 'gs1-128' ? [] : [[DecodeHintType.PURE_BARCODE, true] as const])
      ]) as never
    )
    .getText();
}

describe('the label of a carton or pallet', () => {
  // GS1 General Specifications: application identifier 00, and the check digit of 37610425002123456
  // (recomputed).
  it('carries its SSCC behind application identifier 00, as an independent reader reads it', async () => {
    for (const sscc of ['376104250021234569', makeSscc('9520601', 1), makeSscc('952000', 99_999)]) {
      const read = await readDrawn(
        { bcid: 'code128', parsefnc: true, text: unitSymbolText(sscc), height: 32 },
        'gs1-128'
      );
      expect(read.replaceAll(SEPARATOR, '').replace(/^\]C1/, '')).toBe(`00${sscc}`);
      expect(readSscc(read)).toBe(sscc);
    }
  });
});

describe('what is drawn as a label, read back by an independent reader (@zxing/library)', () => {
  it.each(LABEL_SYMBOLS)('%s gives the same GTIN, lot, serial and expiry', async (symbol) => {
    const reading = readElementString(
      await readBack(labelData(mark(), symbol, BASE), symbol),
      TODAY
    );
    expect(reading).toEqual({
      ok: true,
      symbol: { gtin: '09506000134352', expires: '2030-12-31', lot: 'L-26', serial: 'TN-004417' }
    });
  });
  it.each(LABEL_SYMBOLS)(
    '%s keeps every number that fits a GS1 symbol, brackets and slashes included (property)',
    async (symbol) => {
      const number = fc.string({
        unit: fc.constantFrom(...'!"%&\'()*+,-./0123456789:;<=>?ABCXYZ_abcxyz'),
        minLength: 1,
        maxLength: 20
      });
      await fc.assert(
        fc.asyncProperty(number, number, async (lot, serial) => {
          const data = labelData(mark({ lot, number: serial, expires: null }), symbol, BASE);
          fc.pre(data.form !== 'plain');
          expect(readElementString(await readBack(data, symbol), TODAY)).toEqual({
            ok: true,
            symbol: { gtin: '09506000134352', lot, serial }
          });
        }),
        { numRuns: 40 }
      );
    }
  );
  it.each(LABEL_SYMBOLS)('%s without a GTIN is the bare number, and says why', async (symbol) => {
    const data = labelData(mark({ gtin: null }), symbol, BASE);
    expect(data).toMatchObject({ form: 'plain', why: 'TN150 has no GTIN' });
    expect((await readBack(data, symbol)).replace(/^\]C1/, '')).toBe('TN-004417');
  });
});

describe('what a symbol says', () => {
  const elements = {
    gtin: '09506000134352',
    lot: 'ABC/1(2)',
    serial: '12%3',
    expires: '2027-03-12'
  };
  it('reads the same with the reference parser gs1-barcode-parser-mod', () => {
    const { parseBarcode } = createRequire(import.meta.url)('gs1-barcode-parser-mod') as {
      parseBarcode: (s: string) => { parsedCodeItems: { ai: string; data: unknown }[] };
    };
    const { parsedCodeItems } = parseBarcode(`]d2${elementString(elements)}`);
    expect(
      parsedCodeItems.map((item) => [
        item.ai,
        item.data instanceof Date ? item.data.toISOString().slice(0, 10) : item.data
      ])
    ).toEqual([
      ['01', '09506000134352'],
      ['17', expect.stringContaining('2027-03-1')],
      ['10', 'ABC/1(2)'],
      ['21', '12%3']
    ]);
  });
  it('is a Digital Link the reference library digital-link.js reads', () => {
    const { DigitalLink } = createRequire(import.meta.url)('digital-link.js') as {
      DigitalLink: (uri: string) => {
        getIdentifier: () => object;
        getKeyQualifiers: () => object;
        getAttributes: () => object;
      };
    };
    const link = DigitalLink(
      digitalLink(BASE, { gtin: elements.gtin, lot: 'ABC-1', serial: '12', expires: '2027-03-12' })
    );
    expect(link.getIdentifier()).toEqual({ '01': '09506000134352' });
    expect(link.getKeyQualifiers()).toEqual({ 10: 'ABC-1', 21: '12' });
    expect(link.getAttributes()).toEqual({ 17: '270312' });
  });
  it('shows people identifiers in brackets', () =>
    expect(bracketed(elements)).toBe('(01)09506000134352(17)270312(10)ABC/1(2)(21)12%3'));
  it.each([
    ['A'.repeat(21), /21 characters/],
    ['A B', /no GS1 symbol takes/],
    ['A#1', /no GS1 symbol takes/],
    ['OK-1', null]
  ])('%s fits or does not', (number, why) =>
    why ? expect(unfitForSymbol(number)).toMatch(why) : expect(unfitForSymbol(number)).toBeNull()
  );
  // Found by the property above: an address drops a step of one dot.
  it('is no Digital Link where a number is a dot', () =>
    expect(labelData(mark({ number: '.', lot: null }), 'qr', BASE)).toMatchObject({
      form: 'plain',
      why: '. cannot stand in a web address'
    }));
  it('falls back to the bare number where the lot does not fit', () =>
    expect(labelData(mark({ lot: 'LOT WITH SPACES' }), 'datamatrix', BASE)).toMatchObject({
      form: 'plain',
      text: 'TN-004417'
    }));
});

describe('the layout', () => {
  const sizes = Object.keys(LABEL_SIZES) as LabelSize[];
  it.each(sizes.flatMap((size) => LABEL_SYMBOLS.map((symbol) => [size, symbol] as const)))(
    '%s with %s keeps everything on the label and the symbol clear of the text',
    (size, symbol) => {
      const full = mark({
        number: 'X'.repeat(20),
        supplierNumber: 'ROLL 9011A',
        facts: ['gross weight 0.25 kg', 'certificate number CERT-7781'],
        name: 'a rather long name of a product indeed'
      });
      const {
        width,
        height,
        symbol: box,
        texts
      } = layoutLabel(full, labelData(full, symbol, BASE), symbol, size);
      expect(box.x).toBeGreaterThanOrEqual(0);
      expect(box.x + box.width).toBeLessThanOrEqual(width);
      expect(box.y + box.height).toBeLessThanOrEqual(height);
      expect(texts[0]!.text).toBe('X'.repeat(20));
      for (const text of texts) {
        const end =
          text.x +
          (text.text.length * text.points * (text.face === 'sans' ? 0.55 : 0.6) * 25.4) / 72;
        expect(end, text.text).toBeLessThanOrEqual(width + 0.5);
        const top = text.y - ((text.points * 25.4) / 72) * 0.75;
        const beside = end <= box.x + 0.6 || top >= box.y + box.height - 0.01 || text.y <= box.y;
        expect(
          beside,
          `${text.text} at ${text.x},${text.y} over the symbol at ${box.x},${box.y}`
        ).toBe(true);
      }
    }
  );
  it('a GS1-128 of GTIN, lot, serial and expiry does not fit a small label, and is told so; a DataMatrix does', () => {
    expect(unreadable(drawLabel(mark(), 'gs1-128', '50x25'))).toMatch(
      /narrowest bar would be 0\.\d\d mm/
    );
    expect(unreadable(drawLabel(mark(), 'gs1-128', '100x50'))).toBeNull();
    expect(unreadable(drawLabel(mark(), 'datamatrix', '50x25'))).toBeNull();
  });
  it('is drawn as PDF, a page a label and copy, and as a picture without anything from outside', async () => {
    const pdf = new TextDecoder('latin1').decode(
      await labelsPdf([mark(), mark({ number: 'TN-004418' })], 'qr', '70x40', 2)
    );
    expect(pdf.slice(0, 5)).toBe('%PDF-');
    expect(pdf.match(/\/Type \/Page\b/g)).toHaveLength(4);
    const svg = labelSvg(mark({ name: '<script>&"' }), 'datamatrix', '50x25');
    expect(svg).not.toMatch(/<script|href|url\(/);
  });
});
