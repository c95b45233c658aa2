// A row as COPY writes it, turned into what PostgreSQL itself writes of it as jsonb.
import type { Line } from './copy-lines.ts';
import type { JsonBytes } from './json-bytes.ts';

export interface Column {
  name: string;
  /** The name of its type in PostgreSQL; of a domain, what it is of. */
  type: string;
}

/** Writes the field that begins here. @returns where it ends */
type Write = (to: JsonBytes, line: Line, start: number) => number;

/** A column of a copied row: its key as jsonb writes it, and how its field is written. */
export interface Field {
  name: string;
  /** Its key as the first of an object, and as one behind others. */
  first: Buffer;
  next: Buffer;
  write: Write;
}

const TAB = 9;
const BACKSLASH = 92;
const LETTER_N = 78;
const LETTER_T = 116;
/** `2026-12-01` */
const DAY_LENGTH = 10;

const NUMBERS = new Set(['int2', 'int4', 'int8', 'numeric']);

export const fieldOf = ({ name, type }: Column): Field => ({
  name,
  first: Buffer.from(`{${keyOf(name)}`),
  next: Buffer.from(`, ${keyOf(name)}`),
  write: writerOf(type)
});

/** A key as jsonb writes it; names of columns and parts are plain. */
export const keyOf = (name: string): string => `${JSON.stringify(name)}: `;

function writerOf(type: string): Write {
  if (NUMBERS.has(type)) return writeNumber;
  if (type === 'bool') return writeBool;
  if (type === 'timestamptz') return writeInstant;
  if (type === 'jsonb') return writeJson;
  return writeText;
}

const writeNumber: Write = (to, { bytes, end }, start) => to.copyPlain(bytes, start, end);

const writeBool: Write = (to, { bytes }, start) => {
  to.ascii(bytes[start] === LETTER_T ? 'true' : 'false');
  return start + 1;
};

/** `2026-12-01 08:00:00.5+00` as `2026-12-01T08:00:00.5+00:00`; sessions are in UTC. */
const writeInstant: Write = (to, { bytes, end }, start) => {
  const day = start + DAY_LENGTH;
  to.ascii('"');
  to.copy(bytes, start, day);
  to.ascii('T');
  const ends = to.copyPlain(bytes, day + 1, end);
  to.ascii(':00"');
  return ends;
};

const writeJson: Write = (to, line, start) => {
  const end = endOfField(line, start);
  to.text(unescaped(line.bytes.toString('utf8', start, end)));
  return end;
};

/** Most is written by COPY and by JSON in the same way; COPY leaves no control character. */
const writeText: Write = (to, line, start) => {
  const { bytes, end } = line;
  const before = to.length;
  to.ascii('"');
  const plain = to.copyPlain(bytes, start, end);
  if (plain === end || bytes[plain] === TAB) {
    to.ascii('"');
    return plain;
  }
  to.length = before;
  const ends = endOfField(line, plain);
  to.text(JSON.stringify(unescaped(bytes.toString('utf8', start, ends))));
  return ends;
};

const ESCAPED: Readonly<Record<string, string>> = {
  ...{ b: '\b', f: '\f', n: '\n', r: '\r', t: '\t', v: '\v' }
};

/** A field without the backslashes COPY puts before what would end it. */
export const unescaped = (raw: string): string =>
  raw.includes('\\') ? raw.replace(/\\(.)/gs, (_, sign: string) => ESCAPED[sign] ?? sign) : raw;

/** Where the field that begins here ends. */
export function endOfField({ bytes, end }: Line, start: number): number {
  let at = start;
  while (at < end && bytes[at] !== TAB) at++;
  return at;
}

/** Whether the field that begins here is how COPY writes that there is nothing. */
export const isNothing = ({ bytes }: Line, start: number): boolean =>
  bytes[start] === BACKSLASH && bytes[start + 1] === LETTER_N;

/** So far behind its begin does the next field begin where there is nothing. */
export const PAST_NOTHING = 3;

/**
 * Writes a row as jsonb, without what is empty.
 * @param fields in the order of jsonb
 * @param start where the first of them begins
 */
export function writeRow(to: JsonBytes, fields: readonly Field[], line: Line, start: number): void {
  let at = start;
  let isFirst = true;
  for (const field of fields) {
    if (isNothing(line, at)) {
      at += PAST_NOTHING;
      continue;
    }
    to.put(isFirst ? field.first : field.next);
    at = field.write(to, line, at) + 1;
    isFirst = false;
  }
  to.ascii(isFirst ? '{}' : '}');
}

/** The number a field is. */
export function numberAt({ bytes }: Line, start: number, end: number): number {
  let value = 0;
  for (let at = start; at < end; at++) value = 10 * value + bytes[at]! - 48;
  return value;
}

/** The order in which jsonb keeps keys: by their length in bytes, then byte by byte. */
export function byJsonbOrder(a: string, b: string): number {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length - y.length || Buffer.compare(x, y);
}

/** An object as jsonb from keys and what is written of each. */
export const objectText = (values: ReadonlyMap<string, string>): string =>
  `{${[...values]
    .sort(([a], [b]) => byJsonbOrder(a, b))
    .map(([name, json]) => keyOf(name) + json)
    .join(', ')}}`;

/** A character no text of PostgreSQL has: what holds it was never sealed. */
const NEVER_SEALED = '\0';

/**
 * A value of JSON as jsonb writes it; but of a number JavaScript may not know how it was kept, and
 * it comes out as nothing that could have been sealed.
 */
export function textOf(value: unknown): string {
  if (typeof value === 'number') return NEVER_SEALED;
  if (Array.isArray(value)) return `[${value.map(textOf).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  return objectText(new Map(Object.entries(value).map(([name, of]) => [name, textOf(of)])));
}
