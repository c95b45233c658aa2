/** Most rows of a file: what a person can still look through. */
export const MOST_TABLE_ROWS = 20_000;
/** Most columns: no table here has a fifth of them. */
export const MOST_COLUMNS = 256;
/** Most bytes a file may unpack to: a spreadsheet of twenty thousand rows stays far below. */
export const MOST_UNPACKED = 100_000_000;

const say = (count: number): string => count.toLocaleString('en-GB');

export const tooManyRows = (): string =>
  `It has more than ${say(MOST_TABLE_ROWS)} rows, and that many are the most. Send it in parts.`;
export const tooManyColumns = (): string =>
  `It has more than ${MOST_COLUMNS} columns. Save only those that are wanted.`;
export const tooMuchUnpacked = (): string =>
  `It unpacks to more than ${say(MOST_UNPACKED / 1e6)} MB. Save only the sheet that is wanted, without pictures, or as CSV.`;
