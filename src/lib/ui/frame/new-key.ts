/**
 * A key nobody else has, for one booking or block. (crypto.randomUUID is missing on plain http
 * beyond localhost.)
 */
export const newKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(18))]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('');
