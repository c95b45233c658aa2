// A row as COPY writes it, turned into the text that PostgreSQL itself writes of it as jsonb.

export interface Column {
  name: string;
  /** The name of its type in PostgreSQL; of a domain, what it is of. */
  type: string;
}

/** A column of a copied row: its key as jsonb writes it, and how its field is written. */
export interface Field {
  key: string;
  json: (raw: string) => string;
}

/** How COPY writes that there is nothing. */
export const NOTHING = '\\N';

const NUMBERS = new Set(['int2', 'int4', 'int8', 'numeric']);

export const fieldOf = ({ name, type }: Column): Field => ({
  key: keyOf(name),
  json: writerOf(type)
});

export const keyOf = (name: string): string => `${JSON.stringify(name)}: `;

function writerOf(type: string): Field['json'] {
  if (NUMBERS.has(type)) return (raw) => raw;
  if (type === 'bool') return (raw) => (raw === 't' ? 'true' : 'false');
  if (type === 'timestamptz') return instant;
  if (type === 'jsonb') return unescaped;
  return (raw) => JSON.stringify(unescaped(raw));
}

/** `2026-12-01 08:00:00.5+00` as `2026-12-01T08:00:00.5+00:00`; asked for in UTC. */
const instant = (raw: string): string => `"${raw.slice(0, 10)}T${raw.slice(11)}:00"`;

const ESCAPED: Readonly<Record<string, string>> = {
  ...{ b: '\b', f: '\f', n: '\n', r: '\r', t: '\t', v: '\v' }
};

/** A field without the backslashes COPY puts before what would end it. */
export const unescaped = (raw: string): string =>
  raw.includes('\\') ? raw.replace(/\\(.)/gs, (_, sign: string) => ESCAPED[sign] ?? sign) : raw;

/** The order in which jsonb keeps keys: by their length in bytes, then byte by byte. */
export function byJsonbOrder(a: string, b: string): number {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length - y.length || Buffer.compare(x, y);
}

/**
 * A row as jsonb, without what is empty.
 * @param fields in the order of jsonb
 * @param raw what COPY wrote, one for each field from `first` on
 */
export function rowText(fields: readonly Field[], raw: readonly string[], first: number): string {
  let text = '';
  for (let at = 0; at < fields.length; at++) {
    const value = raw[first + at]!;
    if (value === NOTHING) continue;
    if (text !== '') text += ', ';
    text += fields[at]!.key + fields[at]!.json(value);
  }
  return `{${text}}`;
}

/** An object as jsonb from keys and what is written of each. */
export const objectText = (values: ReadonlyMap<string, string>): string =>
  `{${[...values]
    .sort(([a], [b]) => byJsonbOrder(a, b))
    .map(([name, json]) => keyOf(name) + json)
    .join(', ')}}`;

/** A value of JSON as jsonb writes it; a number as JavaScript has it, which may not be how it was kept. */
export function textOf(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(textOf).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  return objectText(new Map(Object.entries(value).map(([name, of]) => [name, textOf(of)])));
}
