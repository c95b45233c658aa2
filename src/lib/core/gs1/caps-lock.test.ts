import { describe, expect, it } from 'vitest';
import { withoutCapsLock } from './caps-lock.ts';
import { looksLikeSymbol, readElementString } from './element-string.ts';

const FNC1 = '\u001D';
/** As GS1’s own examples have it (General Specifications). */
const GTIN = '0109506000134352';
const TODAY = '2026-12-02';
/** As a keyboard with Caps Lock on sends it. */
const locked = (text: string): string =>
  [...text]
    .map((one) => (one === one.toUpperCase() ? one.toLowerCase() : one.toUpperCase()))
    .join('');

describe('a symbol scanned with Caps Lock on', () => {
  it.each([
    `]d2${GTIN}21Ab-1${FNC1}10Lot-7`,
    `]C1${GTIN}10bob-2511`,
    `]Q3${GTIN}21sN9`,
    `]e0${GTIN}10Ab`
  ])('is read as it was printed: %s', (symbol) => {
    const read = readElementString(symbol, TODAY);
    expect(read).toMatchObject({ ok: true });
    expect(looksLikeSymbol(locked(symbol))).toBe(true);
    expect(readElementString(locked(symbol), TODAY)).toEqual(read);
  });

  // ISO/IEC 15424, quoted from memory: ]E0 is EAN-13, UPC-A and UPC-E.
  it.each([']E09506000134352', 'Lot-7', '(10)Lot-7', ']A0Lot', '\u00DF-7'])(
    'leaves alone what shows no sign of it: %s',
    (scan) => {
      expect(withoutCapsLock(scan)).toBe(scan);
    }
  );
});
