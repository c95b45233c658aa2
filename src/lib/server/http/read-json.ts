import { shown } from '../../core/numbers/number.ts';
import { Problem } from '../kernel/problem.ts';
import { readBytes } from './read-bytes.ts';

/** Most bytes of a body where a route says nothing else: a booking of twenty thousand rows fits. */
export const MOST_BYTES = 16_000_000;
/** No request of ours is nested deeper than some ten levels. */
const MOST_DEPTH = 40;
/** Members of one object: the lines of a draft are the most there are. */
const MOST_KEYS = 20_000;

const malformed = (message: string, title = 'The body is not JSON'): Problem =>
  new Problem(400, title, [{ code: 'request.malformed', path: '', message }]);

/**
 * Reads JSON of a bounded size and shape: bounded before it is made into objects, as a body of
 * brackets or of a million keys costs far more than its bytes.
 * @param most bytes that are taken
 * @throws Problem 413, 400 naming what is wrong
 */
export async function readJson(request: Request, most = MOST_BYTES): Promise<unknown> {
  const text = await readText(request, most);
  const wrong = shapeFault(text);
  if (wrong) throw malformed(wrong, 'The body is not of a form that is taken');
  try {
    return JSON.parse(text);
  } catch (error) {
    const why = shown((error as Error).message);
    throw malformed(`It cannot be read as JSON (${why}). Mend it and send it again.`);
  }
}

/**
 * The body as text.
 * @param most bytes that are taken
 * @throws Problem 413
 */
export async function readText(request: Request, most: number): Promise<string> {
  return new TextDecoder().decode(await readBytes(request, most, () => tooLarge(most)));
}

function tooLarge(most: number): Problem {
  const size = most >= 1e6 ? `${most / 1e6} MB` : `${most / 1e3} kB`;
  const message =
    most === MOST_BYTES
      ? `Send the booking in several parts of at most ${size}, each under a key of its own.`
      : `${size} are the most that is taken here.`;
  return new Problem(413, 'The body is too large', [
    { code: 'request.too-large', path: '', message }
  ]);
}

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const [OPEN_OBJECT, CLOSE_OBJECT, OPEN_LIST, CLOSE_LIST] = [0x7b, 0x7d, 0x5b, 0x5d];

/**
 * What is wrong with the shape of a JSON text, in one pass over its characters; null where nothing
 * is. Whether it is JSON at all is not judged here.
 */
export function shapeFault(text: string): string | null {
  /** Members of each object that is open, or −1 of a list. */
  const open: number[] = [];
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (sign === QUOTE) at = endOfString(text, at);
    else if (sign === OPEN_OBJECT || sign === OPEN_LIST) {
      open.push(sign === OPEN_LIST ? -1 : 1);
      if (open.length > MOST_DEPTH)
        return `It is nested more than ${MOST_DEPTH} levels deep. Nothing here is.`;
    } else if (sign === CLOSE_OBJECT || sign === CLOSE_LIST) open.pop();
    else if (sign === COMMA && open.length > 0 && open.at(-1)! > 0) {
      open[open.length - 1]! += 1;
      if (open.at(-1)! > MOST_KEYS)
        return `An object in it has more than ${MOST_KEYS} members. Nothing here has.`;
    }
  }
  return null;
}

/** Where the string that begins here ends. */
function endOfString(text: string, start: number): number {
  for (let at = start + 1; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (sign === BACKSLASH) at++;
    else if (sign === QUOTE) return at;
  }
  return text.length;
}
