/**
 * Fills a file of deploy/cluster in, as `envsubst` does on a machine of its own; a word that nobody
 * said is an error here, not an empty place.
 * @param template text with `${WORD}` in it
 * @param words what stands for each
 * @throws Error that names a word without a value
 */
export function fill(template: string, words: Readonly<Record<string, string>>): string {
  return template.replace(/\$\{([A-Z_]+)\}/g, (_, word: string) => {
    const value = words[word];
    if (value === undefined) throw new Error(`Nothing was said for ${word}.`);
    return value;
  });
}
