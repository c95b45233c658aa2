/** Words as a sentence or a heading begins: `gross weight` → `Gross weight`. Empty stays empty. */
export const capital = (words: string): string => words.slice(0, 1).toUpperCase() + words.slice(1);
