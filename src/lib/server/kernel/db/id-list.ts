/**
 * Whole numbers as one text, to be cast `::text::bigint[]`: ten thousand of them sent as an array
 * of parameters cost more to quote than the statement takes.
 */
export const idList = (ids: readonly number[] | ArrayLike<number>): string =>
  `{${Array.prototype.join.call(ids, ',')}}`;
