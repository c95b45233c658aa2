/**
 * Of several questions under way only the last one asked may be answered: an answer that overtakes
 * a later one would stand beside what it is not about.
 * @returns a function to call when asking; what that returns says whether nothing was asked since
 */
export function latest(): () => () => boolean {
  let asked = 0;
  return () => {
    const mine = ++asked;
    return () => mine === asked;
  };
}
