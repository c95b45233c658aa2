import { checkDigit, hasGoodCheckDigit } from './check-digit.ts';

const URN = /^urn:epc:id:(?:pgln|sgln):(\d+)\.(\d*)/i;
const LINK = /\/41[47]\/(\d{13})\b/;
const PLAIN = /^\d{13}$/;

/**
 * The GLN an identifier of a party or place names: thirteen digits, a Digital Link (keys 414 and
 * 417), or an EPC URN (PGLN, SGLN), whose check digit is left out.
 * Sources: EPC Tag Data Standard 2.0, sections 6.3.8 (SGLN) and 6.3.18 (PGLN); GS1 General
 * Specifications, section 7.9.
 * @returns null where it names none
 */
export function glnOf(text: string): string | null {
  const trimmed = text.trim();
  const urn = URN.exec(trimmed);
  if (urn) {
    const digits = `${urn[1]}${urn[2]}`;
    return digits.length === 12 ? digits + checkDigit(digits) : null;
  }
  const plain = PLAIN.test(trimmed) ? trimmed : LINK.exec(trimmed)?.[1];
  return plain !== undefined && hasGoodCheckDigit(plain) ? plain : null;
}
