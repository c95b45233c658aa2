/** Rows of a table as bytes, which go to a thread without being copied. */
export interface PackedRows {
  /** Lines of JSON, an array of cells each. */
  lines: Uint8Array;
}

const AT_ONCE = 1_000;
const breath = (): Promise<void> => new Promise((next) => setImmediate(next));

/** Packs rows, a thousand at a time: others are served in between. */
export async function packRows(
  keys: readonly string[],
  rows: readonly Record<string, string>[]
): Promise<PackedRows> {
  const pieces: Buffer[] = [];
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    const some = rows.slice(from, from + AT_ONCE);
    const text = some.map((row) => JSON.stringify(keys.map((key) => row[key] ?? ''))).join('\n');
    pieces.push(Buffer.from(`${text}\n`));
    await breath();
  }
  return { lines: new Uint8Array(Buffer.concat(pieces)) };
}

export function unpackRows(
  keys: readonly string[],
  { lines }: PackedRows
): Record<string, string>[] {
  return new TextDecoder()
    .decode(lines)
    .split('\n')
    .filter(Boolean)
    .map((line) => {
      const cells = JSON.parse(line) as string[];
      return Object.fromEntries(keys.map((key, at) => [key, cells[at]!]));
    });
}
