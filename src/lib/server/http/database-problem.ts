import { Problem } from '../kernel/problem.ts';

interface Known {
  /** Codes of SQLSTATE, or of the driver where no answer came. */
  codes: RegExp;
  status: number;
  title: string;
  code: string;
  message: string;
}

/** What a database says that is no fault of ours: to be sent again, or mended by who sent it. */
const KNOWN: readonly Known[] = [
  {
    codes: /^(ECONN|CONNECT|CONNECTION|57P0|53300|08)/,
    status: 503,
    title: 'The database does not answer',
    code: 'server.database',
    message: 'Nothing was booked. Wait a moment and send it again under the same idempotency key.'
  },
  {
    // A statement that ran too long, one that stood behind a lock, a transaction left open.
    codes: /^(57014|55P03|25P03)$/,
    status: 503,
    title: 'That took too long',
    code: 'server.busy',
    message:
      'Others are at the same, or it is too much at once. Nothing was booked. Wait a moment and send it again under the same idempotency key.'
  },
  {
    // Numbers and dates that there is no room for: no form caught them, and nothing is amiss.
    codes: /^2200[378]$/,
    status: 400,
    title: 'A number or date is out of range',
    code: 'request.malformed',
    message: 'One of those sent is beyond what can be kept. Look through them and send it again.'
  },
  {
    codes: /^(22021|22P05)$/,
    status: 400,
    title: 'A text holds a character that cannot be kept',
    code: 'request.malformed',
    message: 'It holds a null character (U+0000). Take it out and send it again.'
  }
];

/** What an error of the database means for who asked; null where it is none of these. */
export function databaseProblem(error: unknown): Problem | null {
  const code = (error as { code?: unknown }).code;
  const known = KNOWN.find(({ codes }) => typeof code === 'string' && codes.test(code));
  if (!known) return null;
  const { status, title, message } = known;
  return new Problem(status, title, [{ code: known.code, path: '', message }]);
}
