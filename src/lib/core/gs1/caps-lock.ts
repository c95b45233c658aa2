/**
 * Symbology identifiers of GS1 symbols (ISO/IEC 15424) as a keyboard with Caps Lock on sends them:
 * `]C1`, `]d2`, `]Q3`, `]e0`. `]E0` is a retail symbol of thirteen digits as it should be, so it is
 * taken for the last only before an element string with a GTIN.
 */
const INVERTED = /^\](c1|D2|q3|E0(?=01\d{14}))/;

/**
 * A scan as the scanner meant it. A scanner that types like a keyboard has all its letters inverted
 * where Caps Lock is on, those of the symbology identifier too: there it shows.
 */
export const withoutCapsLock = (scan: string): string =>
  INVERTED.test(scan) ? scan.replace(/\p{L}/gu, inverted) : scan;

const inverted = (letter: string): string => {
  const upper = letter.toUpperCase();
  return letter === upper ? letter.toLowerCase() : upper;
};
