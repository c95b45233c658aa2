import { checkDigit } from '../gs1/check-digit.ts';

export type CheckMethod = 'mod10' | 'mod11-2' | 'mod37-36';

const ALPHANUMERIC = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/**
 * The check character of a text, over its letters and digits; signs such as - are passed over.
 * `mod10` is that of GS1 (weights 3 and 1), the others are the systems MOD 11-2 and MOD 37,36 of
 * ISO/IEC 7064.
 * @returns null where the method cannot take the text: mod10 and mod11-2 take digits only
 */
export function checkCharacter(text: string, method: CheckMethod): string | null {
  const characters = text.toUpperCase().replace(/[^0-9A-Z]/g, '');
  if (characters === '' || (method !== 'mod37-36' && !/^\d+$/.test(characters))) return null;
  switch (method) {
    case 'mod10':
      return checkDigit(characters);
    case 'mod11-2': {
      let sum = 0;
      for (const digit of characters) sum = ((sum + Number(digit)) * 2) % 11;
      const value = (12 - sum) % 11;
      return value === 10 ? 'X' : String(value);
    }
    case 'mod37-36': {
      let product = 36;
      for (const character of characters) {
        const sum = (product + ALPHANUMERIC.indexOf(character)) % 36;
        product = ((sum === 0 ? 36 : sum) * 2) % 37;
      }
      return ALPHANUMERIC[(37 - product) % 36]!;
    }
  }
}
