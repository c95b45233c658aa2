import { inStretches } from '../let-others-in.ts';

/** Rows of a table as bytes, which go to a thread without being copied. */
export interface PackedRows {
  /** Lines of JSON, an array of cells each. */
  lines: Uint8Array;
}

/** Packs rows, a thousand at a time: others are served in between. */
export async function packRows(
  keys: readonly string[],
  rows: readonly Record<string, string>[]
): Promise<PackedRows> {
  const pieces: Buffer[] = [];
  for await (const some of inStretches(rows)) {
    const text = some.map((row) => JSON.stringify(keys.map((key) => row[key] ?? ''))).join('\n');
    pieces.push(Buffer.from(`${text}\n`));
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
