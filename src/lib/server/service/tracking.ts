import { randomBytes } from 'node:crypto';

/** Crockford’s alphabet: no I, L, O or U, which are read as others. */
const LETTERS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';

/** Twenty letters by chance: 100 bits that nobody guesses. */
export const newTracking = (): string =>
  [...randomBytes(20)].map((byte) => LETTERS[byte % 32]).join('');

/**
 * A tracking number as it was typed: in any case, with blanks or hyphens, I and L for 1, O for 0.
 * @returns null where it can be none
 */
export function readTracking(text: string): string | null {
  const letters = text.toUpperCase().replace(/[\s-]/g, '').replace(/[IL]/g, '1').replace(/O/g, '0');
  return /^[0-9A-HJKMNP-TV-Z]{20}$/.test(letters) ? letters : null;
}

/** In groups of five, as it is read out on the telephone. */
export const sayTracking = (tracking: string): string => tracking.replace(/(.{5})(?=.)/g, '$1-');
