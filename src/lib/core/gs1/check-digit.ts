/**
 * The GS1 check digit: weights 3 and 1 from the right, complement to ten.
 * Source: GS1 General Specifications, section 7.9.
 * @param digits the digits without the check digit
 */
export function checkDigit(digits: string): string {
  let sum = 0;
  for (let i = 0; i < digits.length; i++)
    sum += Number(digits[digits.length - 1 - i]) * (i % 2 === 0 ? 3 : 1);
  return String((10 - (sum % 10)) % 10);
}

/** Whether the last digit is the check digit of those before it. */
export const hasGoodCheckDigit = (digits: string): boolean =>
  /^\d{2,}$/.test(digits) && checkDigit(digits.slice(0, -1)) === digits.at(-1);

/**
 * A GTIN of 8, 12, 13 or 14 digits as fourteen digits.
 * @returns null where the length or the check digit is wrong
 */
export function gtin14(text: string): string | null {
  const digits = text.trim();
  if (!/^(\d{8}|\d{12,14})$/.test(digits) || !hasGoodCheckDigit(digits)) return null;
  return digits.padStart(14, '0');
}
