/** What is typed with commas or semicolons between, one by one. */
export const listed = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean);
