interface Placed {
  /** Where in the request, as `lines[2].marks[7]`. */
  path: string;
}

/**
 * Faults of the whole booking first, then line by line and row by row, as a person goes through the
 * sheet; of the same place in the order they were found.
 */
export const inOrder = <Fault extends Placed>(faults: readonly Fault[]): Fault[] =>
  [...faults].sort((a, b) => comparePaths(a.path, b.path));

const isOfALine = (path: string): number => Number(path.includes('['));

/** No text is made of either: a sheet may have tens of thousands of faults. */
function comparePaths(a: string, b: string): number {
  const byKind = isOfALine(a) - isOfALine(b);
  if (byKind !== 0) return byKind;
  let at = 0;
  while (at < a.length && a.charCodeAt(at) === b.charCodeAt(at)) at++;
  const start = startOfDigits(a, at);
  const [ofA, ofB] = [digitsFrom(a, start), digitsFrom(b, start)];
  // Row 10 comes after row 9: of two whole numbers the longer one is the larger.
  if (ofA > 0 && ofB > 0 && ofA !== ofB) return ofA - ofB;
  return codeAt(a, at) - codeAt(b, at);
}

/** The sign there, below all others where the text ends. */
const codeAt = (text: string, at: number): number => (at < text.length ? text.charCodeAt(at) : -1);

function isDigit(text: string, at: number): boolean {
  const code = text.charCodeAt(at);
  return code >= 48 && code <= 57;
}

function startOfDigits(text: string, at: number): number {
  let start = at;
  while (isDigit(text, start - 1)) start--;
  return start;
}

function digitsFrom(text: string, start: number): number {
  let end = start;
  while (isDigit(text, end)) end++;
  return end - start;
}
