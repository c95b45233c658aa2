/**
 * Longest number the ledger keeps. GS1 symbols carry at most 20 characters (General Specifications
 * 7.11); suppliers use more.
 */
export const LONGEST_NUMBER = 60;

export type NumberReading = { ok: true; number: string } | { ok: false; why: string };

/** The key of a text that can be a number, null where it cannot be one. */
export function keyOfNumber(text: string): string | null {
  const number = text.trim();
  return number === '' || number.length > LONGEST_NUMBER || ODD.test(number)
    ? null
    : folded(number);
}

/** The first character that is not printable ASCII, whole where it takes two code units. */
const ODD = /[^ -~]/u;
const SMALL = /[a-z]/g;

/**
 * Reads a lot, serial, document or code as typed: trims it, and refuses what could not be printed
 * as a symbol and read back. Inner spaces stay; capitals are kept as written and ignored in
 * comparing.
 */
export function readNumber(text: string): NumberReading {
  const number = text.trim();
  if (number === '') return { ok: false, why: 'it is empty' };
  if (number.length > LONGEST_NUMBER)
    return {
      ok: false,
      why: `it has ${number.length} characters and ${LONGEST_NUMBER} are the most`
    };
  const odd = ODD.exec(number)?.[0];
  if (odd !== undefined)
    return {
      ok: false,
      why: `it has ${describeCharacter(odd)}, which cannot be printed as a symbol; letters A–Z, digits and plain signs can`
    };
  return { ok: true, number };
}

const upper = (letter: string): string => letter.toUpperCase();
const HAS_SMALL = /[a-z]/,
  BEYOND_ASCII = /[^ -~]/;
/**
 * The engine's own folding is right for ASCII and many times faster; beyond it only a to z are
 * folded, as the database does.
 */
const folded = (number: string): string =>
  !HAS_SMALL.test(number)
    ? number
    : BEYOND_ASCII.test(number)
      ? number.replace(SMALL, upper)
      : number.toUpperCase();

/**
 * The key two numbers are compared by: trimmed, case-folded. The database's `mark.number_key` is
 * made the same way.
 */
export const numberKey = (number: string): string => folded(number.trim());

/**
 * A number shortened for a message, so that ten thousand characters pasted by mistake do not fill
 * the screen.
 */
export const shown = (text: string): string => {
  if (text.length <= 40 && !ODD.test(text)) return text;
  // Control characters are made visible; they must not reach a terminal or a page as they are.
  const visible = [...text.slice(0, 41)].map((c) => (c < ' ' || c === '\u007f' ? '·' : c)).join('');
  return text.length > 40 ? `${visible.slice(0, 40)}…` : visible;
};

function describeCharacter(character: string): string {
  const code = `U+${character.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`;
  return character < ' ' || character === '\u007f'
    ? `a control character (${code})`
    : `the character “${character}” (${code})`;
}
