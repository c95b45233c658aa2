import { letOthersIn } from '../kernel/let-others-in.ts';
import { malformed, parseJson } from '../kernel/parse-json.ts';
import { Problem } from '../kernel/problem.ts';
import { JsonShape } from './json-shape.ts';
import { readBytes } from './read-bytes.ts';

/** Most bytes of a body where a route says nothing else: a booking of twenty thousand rows fits. */
export const MOST_BYTES = 16_000_000;
/** Characters that are read without letting others in between: some ten milliseconds. */
const AT_ONCE = 1_000_000;

/** Whether a body is so large, or may be, that others are let in between what is done with it. */
export const mayBeLarge = (request: Request): boolean =>
  Number(request.headers.get('content-length') ?? Infinity) > AT_ONCE;

/**
 * Reads JSON of a bounded size and shape: bounded before it is made into objects, as a body of
 * brackets or of a million keys costs far more than its bytes. Of what is large others are let in
 * between its stretches, and before whoever called works on it.
 * @param most bytes that are taken
 * @throws Problem 413, 400 naming what is wrong
 */
export async function readJson(request: Request, most = MOST_BYTES): Promise<unknown> {
  const value = parseJson(await readJsonText(request, most));
  if (mayBeLarge(request)) await letOthersIn();
  return value;
}

/**
 * The text of JSON of a bounded size and shape; whether it is JSON at all is not judged.
 * @throws Problem 413, 400 naming what is wrong
 */
export async function readJsonText(request: Request, most = MOST_BYTES): Promise<string> {
  const text = await readText(request, most);
  const wrong = await shapeFault(text);
  if (wrong) throw malformed(wrong, 'The body is not of a form that is taken');
  return text;
}

/** What is wrong with the shape of a JSON text; null where nothing is. */
async function shapeFault(text: string): Promise<string | null> {
  const shape = new JsonShape(text);
  while (!shape.isRead) {
    const wrong = shape.read(AT_ONCE);
    if (wrong !== null) return wrong;
    if (text.length > AT_ONCE) await letOthersIn();
  }
  return null;
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
