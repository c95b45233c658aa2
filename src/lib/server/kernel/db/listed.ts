/** The first rows of a list that is cut, and how many there are in all: a screen says both. */
export interface Listed<T> {
  rows: T[];
  total: number;
}

/** Takes a list apart whose rows each carry the whole count: `count(*) OVER ()::int AS total`. */
export function listed<T extends { total: number }>(
  counted: readonly T[]
): Listed<Omit<T, 'total'>> {
  return {
    rows: counted.map(({ total: _, ...row }) => row),
    total: counted[0]?.total ?? 0
  };
}

export const mapListed = <T, U>({ rows, total }: Listed<T>, change: (row: T) => U): Listed<U> => ({
  rows: rows.map(change),
  total
});
