import { Problem } from '../problem.ts';

/** A file that is not read, and why, as a sentence. */
export const unreadableTable = (message: string, status: 413 | 422 = 422): Problem =>
  status === 413
    ? new Problem(413, 'The file is too large', [{ code: 'request.too-large', path: '', message }])
    : new Problem(422, 'The table cannot be read', [
        { code: 'request.malformed', path: '', message }
      ]);
