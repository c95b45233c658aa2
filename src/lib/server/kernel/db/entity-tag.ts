import { createHash } from 'node:crypto';

/**
 * What a record is like, as an entity tag (RFC 9110, 8.8.3): the same as long as nothing of it
 * changes. Whoever changes it says with it what they saw.
 */
export const tagOf = (record: object): string =>
  `"${createHash('sha256').update(JSON.stringify(record)).digest('base64url').slice(0, 22)}"`;
