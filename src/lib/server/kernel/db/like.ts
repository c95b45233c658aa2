import type { Db } from './client.ts';

/** Text for LIKE with its own wildcards taken as plain signs. */
const plain = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** A pattern for what holds the text. */
export const holding = (text: string): string => `%${plain(text)}%`;

/** A pattern for what begins with the text; a `text_pattern_ops` index serves it. */
export const beginningWith = (text: string): string => `${plain(text)}%`;

/** Whether what is listed (alias p) holds a text in its code or name. */
export const codeOrNameHolds = (db: Db, text: string): ReturnType<Db> =>
  db`(p.code ILIKE ${holding(text)} OR p.name ILIKE ${holding(text)})`;
