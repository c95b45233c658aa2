/** Capitals and figures are so much wider than small letters. */
const WIDE = 1.25;

/**
 * A text cut so that it stays within its stone.
 * @param most its width in small letters
 * @param letters even where all letters are equally wide
 */
export function short(text: string, most: number, letters?: 'even'): string {
  let width = 0;
  for (const [at, letter] of [...text].entries()) {
    width += letters !== 'even' && /[\p{Lu}\d]/u.test(letter) ? WIDE : 1;
    if (width > most) return `${[...text].slice(0, at - 1).join('')}…`;
  }
  return text;
}
