/** A name with the lines of an address in one line; what nobody said is left out. */
export const sayAddress = (...parts: (string | undefined)[]): string =>
  parts
    .flatMap((part) => (part ?? '').split('\n'))
    .filter(Boolean)
    .join(', ');
