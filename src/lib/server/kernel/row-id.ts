/**
 * The id a path or a query names; null where it is none, so that no other text reaches a statement.
 */
export const rowId = (text: string | null): number | null =>
  text !== null && /^\d{1,15}$/.test(text) ? Number(text) : null;
