export interface Measured {
  name: string;
  ratio: number;
  ours: number;
  theirs: number;
  unit: 'ms' | 'bytes';
  size: number;
}

/** The middle of some figures, the upper of two. */
export const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** Milliseconds a run takes. */
export async function timed(run: () => Promise<unknown>): Promise<number> {
  const before = process.hrtime.bigint();
  await run();
  return Number(process.hrtime.bigint() - before) / 1e6;
}

/**
 * Measures ours against theirs in one run, turn by turn so that whatever else the machine does
 * meets both.
 * The first turn of each warms caches and is thrown away; the ratio is that of the medians.
 */
export async function compare(
  name: string,
  size: number,
  ours: (turn: number) => Promise<unknown>,
  theirs: (turn: number) => Promise<unknown>,
  turns = 7
): Promise<Measured> {
  const a: number[] = [],
    b: number[] = [];
  for (let turn = 0; turn <= turns; turn++) {
    const [x, y] = [await timed(() => ours(turn)), await timed(() => theirs(turn))];
    if (turn > 0) {
      a.push(x);
      b.push(y);
    }
  }
  return measured(name, size, median(a), median(b));
}

export const measured = (name: string, size: number, ours: number, theirs: number): Measured => ({
  name,
  ratio: Math.round((ours / theirs) * 100) / 100,
  ours: Math.round(ours * 10) / 10,
  theirs: Math.round(theirs * 10) / 10,
  unit: 'ms',
  size
});
