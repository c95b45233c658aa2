import { looksLikeSymbol, readElementString } from '../gs1/element-string.ts';
import { shown } from '../numbers/number.ts';

/** What a scan names: a lot or serial by its number, and its product where a symbol says it. */
export interface PickScanned {
  number: string;
  gtin: string | null;
}

/**
 * Reads what was scanned at picking: a bare number, or a symbol.
 * @param day `YYYY-MM-DD`, for years of two digits
 * @returns what it names, or why it cannot be read, as a sentence
 */
export function readPickScan(scan: string, day: string): PickScanned | { why: string } {
  if (!looksLikeSymbol(scan)) return { number: scan.trim(), gtin: null };
  const reading = readElementString(scan, day);
  if (!reading.ok)
    return {
      why: `The symbol cannot be read: ${reading.why}. Scan it again; it may have been cut short.`
    };
  const { serial, lot, gtin = null } = reading.symbol;
  return { number: serial ?? lot ?? '', gtin };
}

/** That nothing there is was named. */
export const sayNotNamed = ({ number }: PickScanned): string =>
  number === ''
    ? 'The symbol names a product but no lot or serial. Scan the number too.'
    : `There is no lot or serial ${shown(number)}. Scan it again, or look it up.`;
