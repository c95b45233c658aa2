import { createRequire } from 'node:module';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit, gtin14, hasGoodCheckDigit } from './check-digit.ts';
import { IDENTIFIERS } from './identifiers.ts';
import { looksLikeSymbol, readElementString } from './element-string.ts';

const DATES = new Set(['11', '12', '13', '15', '16', '17', '7006']);
const FNC1 = '\u001d';
const TODAY = '2026-11-23';

// Source: GS1 General Specifications, check digit calculation; values as listed in the design's
// standards.md.
describe('GS1 check digit', () => {
  it.each([
    ['629104150021', '3'],
    ['37610425002123456', '9'],
    ['0950600013435', '2']
  ])('%s → %s', (digits, digit) => {
    expect(checkDigit(digits)).toBe(digit);
    expect(hasGoodCheckDigit(digits + digit)).toBe(true);
  });

  it('finds every single wrong digit (property of weights 3 and 1)', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^\d{13}$/),
        fc.nat(12),
        fc.integer({ min: 1, max: 9 }),
        (digits, at, by) => {
          const wrong =
            digits.slice(0, at) + ((Number(digits[at]) + by) % 10) + digits.slice(at + 1);
          expect(hasGoodCheckDigit(wrong + checkDigit(digits))).toBe(false);
        }
      )
    );
  });

  it('makes fourteen digits of every GTIN', () => {
    expect(gtin14('6291041500213')).toBe('06291041500213');
    expect(gtin14('6291041500214')).toBeNull();
    expect(gtin14('123')).toBeNull();
  });
});

describe('GS1 element strings', () => {
  const expected = { gtin: '09506000134352', expires: '2027-03-31', lot: 'BOB-2511', serial: 'S1' };
  it('are read with prefix and separators, and in the bracketed human form', () => {
    expect(
      readElementString(`]d2010950600013435217270300${'10'}BOB-2511${FNC1}21S1`, TODAY)
    ).toEqual({ ok: true, symbol: expected });
    expect(readElementString('(01)09506000134352(17)270300(10)BOB-2511(21)S1', TODAY)).toEqual({
      ok: true,
      symbol: expected
    });
  });

  it('take the century within −49…+50 years (General Specifications 7.12, quoted from memory)', () => {
    const year = (yy: string, today: string) => {
      const r = readElementString(`]C117${yy}0101`, today);
      return r.ok ? r.symbol.expires!.slice(0, 4) : r.why;
    };
    expect(year('76', TODAY)).toBe('2076');
    expect(year('77', TODAY)).toBe('1977');
    expect(year('01', '2099-01-01')).toBe('2101');
  });

  it('are refused in words', () => {
    expect(readElementString('(01)09506000134353', TODAY)).toMatchObject({
      ok: false,
      why: expect.stringContaining('check digit')
    });
    expect(readElementString('(17)271301', TODAY)).toMatchObject({
      ok: false,
      why: expect.stringContaining('no date')
    });
    expect(readElementString(']d205123', TODAY)).toMatchObject({ ok: false });
    expect(readElementString(`(10)${'A'.repeat(21)}`, TODAY)).toMatchObject({ ok: false });
  });

  it('with a weight, a price, an order or anything else of the standard are read for what is kept', () => {
    const weighed = `]d2010950600013435231030012501727033110BOB-2511${FNC1}39201295${FNC1}400PO-7${FNC1}99ours${FNC1}21S1`;
    expect(readElementString(weighed, TODAY)).toEqual({
      ok: true,
      symbol: { ...expected, expires: '2027-03-31' }
    });
    expect(readElementString('(01)09506000134352(3103)001250(30)12', TODAY)).toEqual({
      ok: true,
      symbol: { gtin: '09506000134352', count: '12' }
    });
    expect(readElementString('(3103)00125', TODAY)).toMatchObject({
      ok: false,
      why: expect.stringContaining('(3103) holds 5 characters')
    });
  });

  // Reference library: gs1-barcode-parser-mod; the identifiers are those it knows of ours, each with
  // the least data its form takes.
  it('name the identifiers gs1-barcode-parser-mod does, with data of the same length', () => {
    const { parseBarcode } = createRequire(import.meta.url)('gs1-barcode-parser-mod') as {
      parseBarcode: (s: string) => { parsedCodeItems: { ai: string }[] };
    };
    let agreed = 0;
    for (const [code, pattern] of IDENTIFIERS) {
      const length = [...Array(91).keys()].find((n) => n > 0 && pattern.test('1'.repeat(n)))!;
      const data = DATES.has(code) ? '270101' : '1'.repeat(length);
      let theirs: string | undefined;
      try {
        theirs = parseBarcode(`]C1${code}${data}`).parsedCodeItems[0]?.ai;
      } catch {
        continue; // one it does not know
      }
      agreed++;
      // It names a measure without the digit that is its decimals.
      expect(code.startsWith(theirs!), code).toBe(true);
    }
    expect(agreed).toBeGreaterThan(200);
    expect(IDENTIFIERS.size).toBeGreaterThan(400);
  });

  it('leave bare numbers alone', () => {
    expect(looksLikeSymbol('0117-44')).toBe(false);
    expect(looksLikeSymbol('TN-004417')).toBe(false);
    expect(looksLikeSymbol(']C110ABC')).toBe(true);
  });

  // Reference library: gs1-barcode-parser-mod.
  it('read the same as gs1-barcode-parser-mod', () => {
    const { parseBarcode } = createRequire(import.meta.url)('gs1-barcode-parser-mod') as {
      parseBarcode: (s: string) => { parsedCodeItems: { ai: string; data: unknown }[] };
    };
    const text = fc.stringMatching(/^[A-Z0-9-]{1,20}$/);
    fc.assert(
      fc.property(
        fc.stringMatching(/^\d{13}$/),
        text,
        text,
        fc.integer({ min: 27, max: 60 }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 28 }),
        (gtin, lot, serial, yy, month, day) => {
          const two = (n: number) => String(n).padStart(2, '0');
          const scan = `]C101${gtin}${checkDigit(gtin)}17${yy}${two(month)}${two(day)}10${lot}${FNC1}21${serial}`;
          const theirs = Object.fromEntries(
            parseBarcode(scan).parsedCodeItems.map((item) => [item.ai, item.data])
          );
          const ours = readElementString(scan, TODAY);
          expect(ours).toMatchObject({
            ok: true,
            symbol: { gtin: theirs['01'], lot: theirs['10'], serial: theirs['21'] }
          });
        }
      ),
      { numRuns: 200 }
    );
  });
});

describe('GS1 Digital Link', () => {
  const read = (link: string) => readElementString(link, TODAY);
  it('is read wherever its host and stem are, and what is no identifier is passed over', () => {
    expect(looksLikeSymbol('https://id.brackwater.example/some/stem/01/09506000134352')).toBe(true);
    expect(looksLikeSymbol('https://brackwater.example/about')).toBe(false);
    expect(
      read(
        'https://id.brackwater.example/some/stem/01/9506000134352/10/BOB%2F25/21/S1?17=290430&lang=en'
      )
    ).toEqual({
      ok: true,
      symbol: { gtin: '09506000134352', lot: 'BOB/25', serial: 'S1', expires: '2029-04-30' }
    });
  });
  it('is refused in words', () => {
    expect(read('https://id.brackwater.example/01/09506000134353')).toMatchObject({
      ok: false,
      why: expect.stringContaining('check digit')
    });
    expect(
      read('https://id.brackwater.example/01/09506000134352/10/' + 'A'.repeat(21))
    ).toMatchObject({ ok: false });
    expect(read('https://id.brackwater.example/01/09506000134352/10/%E0%A4%A')).toMatchObject({
      ok: false
    });
  });

  // Reference library: digital-link.js makes the links, we read them.
  it('made by digital-link.js are read as they were made', () => {
    interface Link {
      toWebUriString: () => string;
    }
    const { DigitalLink } = createRequire(import.meta.url)('digital-link.js') as {
      DigitalLink: (options: object) => Link;
    };
    const text = fc.stringMatching(/^[A-Z0-9][A-Z0-9-]{0,19}$/);
    fc.assert(
      fc.property(
        fc.stringMatching(/^\d{13}$/),
        text,
        text,
        fc.integer({ min: 27, max: 60 }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 28 }),
        (digits, lot, serial, yy, month, day) => {
          const two = (n: number) => String(n).padStart(2, '0');
          const gtin = digits + checkDigit(digits);
          const link = DigitalLink({
            domain: 'https://id.brackwater.example',
            identifier: { '01': gtin },
            keyQualifiers: { '10': lot, '21': serial },
            attributes: { '17': `${two(yy)}${two(month)}${two(day)}` }
          }).toWebUriString();
          expect(read(link)).toEqual({
            ok: true,
            symbol: { gtin, lot, serial, expires: `20${two(yy)}-${two(month)}-${two(day)}` }
          });
        }
      ),
      { numRuns: 200 }
    );
  });
});
