import { shown } from '../../core/numbers/number.ts';
import { Problem } from './problem.ts';

/** A body that is no JSON, or none of a form that is taken. */
export const malformed = (message: string, title = 'The body is not JSON'): Problem =>
  new Problem(400, title, [{ code: 'request.malformed', path: '', message }]);

/** The value of a JSON text. @throws Problem 400 naming what is wrong */
export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const why = shown((error as Error).message);
    throw malformed(`It cannot be read as JSON (${why}). Mend it and send it again.`);
  }
}
