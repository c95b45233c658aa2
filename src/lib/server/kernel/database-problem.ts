import { Problem } from './problem.ts';

interface Known {
  /** Codes of SQLSTATE, or of the driver where no answer came. */
  codes: RegExp;
  /** The constraint that was broken, where others of the code mean something else. */
  constraint?: string;
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
  },
  {
    // A new code or number that somebody else gave in the same moment; locks taken crosswise.
    codes: /^(23505|40001|40P01)$/,
    status: 409,
    title: 'Somebody else was at the same',
    code: 'server.busy',
    message: 'It was changed or made by somebody else just now. Nothing was kept. Look at it again.'
  },
  {
    // A code within a body; those of an address are looked at where they are read.
    codes: /^23514$/,
    constraint: 'code_text_check',
    status: 400,
    title: 'A code cannot be used',
    code: 'number.malformed',
    message:
      'One of the codes sent has signs that are not printed, or is longer than 60. Change it and send it again.'
  }
];

/** What an error of the database means for who asked; null where it is none of these. */
export function databaseProblem(error: unknown): Problem | null {
  const { code, constraint_name } = error as { code?: unknown; constraint_name?: unknown };
  const known = KNOWN.find(
    ({ codes, constraint = constraint_name }) =>
      typeof code === 'string' && codes.test(code) && constraint === constraint_name
  );
  if (!known) return null;
  const { status, title, message } = known;
  return new Problem(status, title, [{ code: known.code, path: '', message }]);
}
