import { numberOfScan } from '../../core/gs1/number-of-scan.ts';
import { readSscc } from '../../core/gs1/sscc.ts';
import { readRange } from '../../core/numbers/range.ts';

/** One scan, or a pasted column of them, line by line: what each names. */
export const linesOfScan = (scanned: string, today: string): string[] =>
  scanned
    .split(/[\r\n\t]+/)
    .map((line) => readSscc(line) ?? numberOfScan(line, today))
    .filter(Boolean);

/** Cartons and numbers that were scanned, ranges written out; and what is wrong with ranges. */
export interface Scanned {
  cartons: string[];
  numbers: string[];
  wrong: string[];
}

export function readScans(lines: readonly string[]): Scanned {
  const scanned: Scanned = { cartons: [], numbers: [], wrong: [] };
  for (const line of lines) {
    const sscc = readSscc(line);
    const range = sscc === null ? readRange(line) : null;
    if (sscc !== null) scanned.cartons.push(sscc);
    else if (range === null) scanned.numbers.push(line);
    else if (range.ok) for (const number of range.numbers) scanned.numbers.push(number);
    else scanned.wrong.push(`${line}: ${range.why}.`);
  }
  return scanned;
}
