import { SEPARATOR } from './element-string.ts';
import { checkDigit, hasGoodCheckDigit } from './check-digit.ts';

/**
 * The number of a carton or pallet: extension digit, company prefix, serial reference, check digit;
 * eighteen digits in all.
 * Source: GS1 General Specifications, section 2.2.1 (SSCC).
 * @param prefix our GS1 company prefix, 4 to 12 digits
 * @param serial counts up; beyond what the prefix leaves room for, the extension digit takes the
 * rest
 * @throws RangeError where all numbers of the prefix are used up
 */
export function makeSscc(prefix: string, serial: number): string {
  const room = 10 ** (16 - prefix.length);
  const extension = Math.floor(serial / room);
  if (extension > 9)
    throw new RangeError(`the company prefix ${prefix} has no more than ${room * 10} SSCCs`);
  const digits = `${extension}${prefix}${String(serial % room).padStart(16 - prefix.length, '0')}`;
  return digits + checkDigit(digits);
}

/**
 * The SSCC a scan names: eighteen digits with a good check digit, as they are or behind (00). Null
 * where it is none.
 */
export function readSscc(scan: string): string | null {
  const digits = /^(?:\][A-Za-z]\d)?(?:\(00\)|00)?(\d{18})$/.exec(
    scan.trim().replace(SEPARATOR, '')
  )?.[1];
  return digits !== undefined && hasGoodCheckDigit(digits) ? digits : null;
}

/** An SSCC as people read it under the symbol. */
export const saySscc = (sscc: string): string => `(00)${sscc}`;
