import { hasGoodCheckDigit } from '../gs1/check-digit.ts';

/** A unit as the path of a web address names it. */
export interface LinkedUnit {
  /** Fourteen digits. */
  gtin: string;
  serial: string;
}

/** Longest serial: X..20 (GS1 General Specifications, section 3.5, application identifier 21). */
const MOST_SERIAL = 20;
/** Qualifiers of a GTIN in the order a path has them (GS1 Digital Link URI Syntax 1.6, 4.9). */
const QUALIFIERS = ['22', '10', '21'];

/**
 * Reads what follows the host in a GS1 Digital Link of a unit: `/01/{gtin}`, then its qualifiers,
 * each with its value, of which the serial must be one.
 * @param gtin 8, 12, 13 or 14 digits
 * @param rest the qualifiers, decoded: `21/A1`, `10/L7/21/A1`
 * @returns null where it names no single unit
 */
export function readDigitalLinkPath(gtin: string, rest: string): LinkedUnit | null {
  if (!/^(\d{8}|\d{12,14})$/.test(gtin) || !hasGoodCheckDigit(gtin)) return null;
  let left = rest;
  let from = 0;
  for (;;) {
    const [, key = '', value = ''] = /^(\d\d)\/(.*)$/s.exec(left) ?? [];
    const place = QUALIFIERS.indexOf(key, from);
    if (place < 0 || value === '') return null;
    if (key === '21') return serialOf(gtin, value);
    // A lot or a variant ends at the next stroke; a serial, which is last, may hold one.
    const end = value.indexOf('/');
    if (end < 1) return null;
    left = value.slice(end + 1);
    from = place + 1;
  }
}

const serialOf = (gtin: string, serial: string): LinkedUnit | null =>
  serial.length > MOST_SERIAL ? null : { gtin: gtin.padStart(14, '0'), serial };
