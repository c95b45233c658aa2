import {
  isNothing,
  objectText,
  PAST_NOTHING,
  textOf,
  unescaped,
  type Field
} from './copied-row.ts';
import type { Line } from './copy-lines.ts';
import { JsonBytes } from './json-bytes.ts';

/**
 * What a mark with facts, or one that was changed, was when it began.
 * @param fields its columns as they stand in the line; behind them stand its facts
 * @param before what columns and facts were before they were first changed, as COPY writes it
 */
export function bornText(
  fields: readonly Field[],
  line: Line,
  start: number,
  before: ReadonlyMap<string, string> = new Map()
): string {
  const values = new Map<string, string>();
  let at = start;
  for (const { name, write } of fields) {
    if (isNothing(line, at)) {
      at += PAST_NOTHING;
      continue;
    }
    const written = new JsonBytes();
    at = write(written, line, at) + 1;
    values.set(name, written.slice(0, written.length).toString());
  }
  const facts = JSON.parse(unescaped(line.bytes.toString('utf8', at, line.end))) as object;
  for (const [name, value] of Object.entries(facts))
    values.set(`fact ${name}`, JSON.stringify(typeof value === 'string' ? value : textOf(value)));
  for (const [name, value] of before) {
    if (value === NOTHING) values.delete(name);
    else values.set(name, JSON.stringify(unescaped(value)));
  }
  return objectText(values);
}

/** How COPY writes that there is nothing. */
const NOTHING = '\\N';
