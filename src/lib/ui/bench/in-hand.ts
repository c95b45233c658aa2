import type { Row, RowVerdict } from './grid.ts';

/** What is told of the last scan, in a colour that is seen from afar. */
export interface Told {
  tone: 'taken' | 'refused' | 'warned' | 'ask';
  text: string;
}

type Verdict = RowVerdict & { full: string };

const TONES: Record<RowVerdict['tone'], Told['tone']> = {
  good: 'taken',
  stop: 'refused',
  reason: 'warned',
  note: 'warned'
};

/** The row that was scanned last: the last one with a number; -1 where there is none. */
export const rowInHand = (rows: readonly Row[], key: string): number =>
  rows.findLastIndex((row) => (row[key] ?? '').trim() !== '');

/**
 * What stands in big type: the refusal of the scan itself, then what the ledger says of the row in
 * hand, then that it was taken, and before the first scan what to do.
 * @param scanned what became of the last scan; null before the first
 * @param verdict the ledger's of the row in hand, once it is there
 */
export function tellScan(scanned: Told | null, verdict: Verdict | undefined, asks: string): Told {
  if (scanned?.tone === 'refused') return scanned;
  if (verdict?.full) return { tone: TONES[verdict.tone], text: verdict.full };
  return scanned ?? { tone: 'ask', text: asks };
}

/** The numbers scanned beside the one in hand, the latest first, with their row. */
export const scannedBeside = (
  rows: readonly Row[],
  key: string,
  hand: number,
  most: number
): { at: number; number: string }[] =>
  rows
    .flatMap((row, at) => {
      const number = (row[key] ?? '').trim();
      return number === '' || at === hand ? [] : [{ at, number }];
    })
    .slice(-most)
    .reverse();

/** The row that a scan filled; -1 where it filled none. */
export const changedRow = (before: readonly Row[], after: readonly Row[]): number =>
  after.findIndex((row, at) => row !== before[at]);
