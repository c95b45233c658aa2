import { groupBy } from '../../core/group-by.ts';
import type { Tx } from '../kernel/db/client.ts';
import {
  byJsonbOrder,
  fieldOf,
  keyOf,
  NOTHING,
  objectText,
  rowText,
  textOf,
  unescaped,
  type Column,
  type Field
} from './copied-row.ts';
import { copyLines } from './copy-lines.ts';
import { NOT_OF_ITS_BIRTH, SEALED_ROWS, SEALED_TABLES } from './sealed-rows.ts';

/** A column of the event itself, or a part that its rows are. */
type Slot = { key: string } & ({ at: number; field: Field } | { part: string });

/** Rows as jsonb, by the event they are of. */
type RowsByEvent = Map<number, string[]>;

/** How much wider than its events a span of ids may be and still be read as one. */
const WIDEST = 4;

/**
 * Leaves put together from rows as they are copied out, a fraction of the work of having PostgreSQL
 * write them. It says what a leaf is in `leaves.ts`; this only follows: an event whose hash comes
 * out as it was sealed is as it was sealed, and of any other PostgreSQL is asked.
 */
export class CopiedLeaves {
  private constructor(
    private readonly tx: Tx,
    private readonly columns: ReadonlyMap<string, readonly Column[]>
  ) {}

  static async open(tx: Tx): Promise<CopiedLeaves> {
    const rows = await tx<(Column & { table: string })[]>`
      SELECT c.relname AS table, a.attname AS name, coalesce(b.typname, t.typname) AS type
      FROM pg_attribute a
        JOIN pg_class c ON c.oid = a.attrelid
        JOIN pg_type t ON t.oid = a.atttypid
        LEFT JOIN pg_type b ON b.oid = t.typbasetype
      WHERE c.relnamespace = 'public'::regnamespace
        AND c.relname = ANY(${SEALED_TABLES as string[]})
        AND a.attnum > 0
        AND NOT a.attisdropped
    `;
    const byTable = groupBy(rows, ({ table }) => table);
    for (const list of byTable.values()) list.sort((a, b) => byJsonbOrder(a.name, b.name));
    return new CopiedLeaves(tx, byTable);
  }

  /** The leaves of these events, by their ids; of one that is not there none. */
  async of(events: readonly number[]): Promise<Map<number, string>> {
    const parts = new Map<string, RowsByEvent>();
    for (const { part, table, of, by } of SEALED_ROWS) {
      const fields = this.fieldsOf(table, [of]);
      const query = `
        SELECT x.${of}, ${listed(fields)} FROM ${table} x
        WHERE ${among(`x.${of}`, events)} ORDER BY x.${of}, x.${by}`;
      parts.set(part, await this.rows(query, fields));
    }
    parts.set('born', await this.born(events));
    parts.set('made', await this.made(events));
    return this.whole(events, parts);
  }

  private fieldsOf(table: string, without: readonly string[]): (Field & { name: string })[] {
    return this.columns
      .get(table)!
      .filter(({ name }) => !without.includes(name))
      .map((column) => ({ name: column.name, ...fieldOf(column) }));
  }

  private async rows(query: string, fields: readonly Field[]): Promise<RowsByEvent> {
    const rows: RowsByEvent = new Map();
    await copyLines(this.tx, query, (raw) => put(rows, Number(raw[0]), rowText(fields, raw, 1)));
    return rows;
  }

  /** What marks were when they began: what was changed since is as it was before. */
  private async born(events: readonly number[]): Promise<RowsByEvent> {
    const changed = await this.firstChanges(events);
    const fields = this.fieldsOf('mark', NOT_OF_ITS_BIRTH);
    const rows: RowsByEvent = new Map();
    const query = `
      SELECT x.birth_event, x.id, x.facts, ${listed(fields)} FROM mark x
      WHERE ${among('x.birth_event', events)} ORDER BY x.birth_event, x.id`;
    await copyLines(this.tx, query, (raw) => {
      const [event, id, facts] = [Number(raw[0]), Number(raw[1]), raw[2]!];
      const before = changed.get(id);
      const plain = !before && facts === '{}';
      put(rows, event, plain ? rowText(fields, raw, 3) : bornText(fields, raw, facts, before));
    });
    return rows;
  }

  /** Of marks that were changed what each was before its first change. */
  private async firstChanges(events: readonly number[]): Promise<Map<number, Map<string, string>>> {
    const changed = new Map<number, Map<string, string>>();
    const query = `
      SELECT x.mark_id, CASE WHEN x.field = 'fact' THEN 'fact ' || x.fact ELSE x.field END,
        x.old_value
      FROM mark m JOIN mark_change x ON x.mark_id = m.id
      WHERE ${among('m.birth_event', events)} ORDER BY x.id`;
    await copyLines(this.tx, query, ([mark, name, before]) => {
      const of = changed.get(Number(mark)) ?? new Map<string, string>();
      changed.set(Number(mark), of);
      if (!of.has(unescaped(name!))) of.set(unescaped(name!), before!);
    });
    return changed;
  }

  private async made(events: readonly number[]): Promise<RowsByEvent> {
    const [from, into] = [
      await this.sides('transformation_input', events),
      await this.sides('transformation_output', events)
    ];
    const rows: RowsByEvent = new Map();
    const query = `
      SELECT x.event_id, x.id, x.shared FROM transformation x
      WHERE ${among('x.event_id', events)} ORDER BY x.event_id, x.id`;
    await copyLines(this.tx, query, ([event, id, shared]) => {
      const of = [
        `"id": ${id}`,
        ...listOf('from', from.get(Number(id))),
        ...listOf('into', into.get(Number(id))),
        `"shared": ${shared === 't'}`
      ];
      put(rows, Number(event), `{${of.join(', ')}}`);
    });
    return rows;
  }

  /** What went into transformations, or came out of them, by the transformation. */
  private async sides(table: string, events: readonly number[]): Promise<RowsByEvent> {
    const fields = this.fieldsOf(table, ['transformation_id']);
    const query = `
      SELECT x.transformation_id, ${listed(fields)}
      FROM transformation t JOIN ${table} x ON x.transformation_id = t.id
      WHERE ${among('t.event_id', events)} ORDER BY x.transformation_id, x.mark_id`;
    return this.rows(query, fields);
  }

  private async whole(
    events: readonly number[],
    parts: ReadonlyMap<string, RowsByEvent>
  ): Promise<Map<number, string>> {
    const fields = this.fieldsOf('event', ['booked_xid']);
    const slots = slotsOf(fields, [...parts.keys()]);
    const leaves = new Map<number, string>();
    const query = `
      SELECT x.id, ${listed(fields)} FROM event x WHERE ${among('x.id', events)}`;
    await copyLines(this.tx, query, (raw) => {
      const event = Number(raw[0]);
      leaves.set(event, slots.flatMap((slot) => written(slot, raw, parts, event)).join(', '));
    });
    return new Map([...leaves].map(([event, text]) => [event, `{${text}}`]));
  }
}

/** The columns of an event and its parts in the order of jsonb. */
const slotsOf = (fields: readonly (Field & { name: string })[], parts: readonly string[]): Slot[] =>
  [
    ...fields.map((field, at) => ({ name: field.name, key: field.key, at: at + 1, field })),
    ...parts.map((part) => ({ name: part, key: keyOf(part), part }))
  ].sort((a, b) => byJsonbOrder(a.name, b.name));

function written(
  slot: Slot,
  raw: readonly string[],
  parts: ReadonlyMap<string, RowsByEvent>,
  event: number
): string[] {
  if ('part' in slot) return listOf(slot.part, parts.get(slot.part)!.get(event));
  const value = raw[slot.at]!;
  return value === NOTHING ? [] : [slot.key + slot.field.json(value)];
}

function bornText(
  fields: readonly (Field & { name: string })[],
  raw: readonly string[],
  facts: string,
  before: ReadonlyMap<string, string> = new Map()
): string {
  const values = new Map<string, string>();
  fields.forEach((field, at) => {
    const value = raw[at + 3]!;
    if (value !== NOTHING) values.set(field.name, field.json(value));
  });
  for (const [name, value] of Object.entries(JSON.parse(unescaped(facts)) as object))
    values.set(`fact ${name}`, JSON.stringify(typeof value === 'string' ? value : textOf(value)));
  for (const [name, value] of before) {
    if (value === NOTHING) values.delete(name);
    else values.set(name, JSON.stringify(unescaped(value)));
  }
  return objectText(values);
}

const listOf = (name: string, rows: readonly string[] | undefined): string[] =>
  rows ? [`${keyOf(name)}[${rows.join(', ')}]`] : [];

const listed = (fields: readonly { name: string }[]): string =>
  fields.map(({ name }) => `x."${name}"`).join(', ');

function put(rows: RowsByEvent, of: number, text: string): void {
  const list = rows.get(of);
  if (list) list.push(text);
  else rows.set(of, [text]);
}

/** Whether a column is one of these ids, which are numbers: as a span where they lie close. */
function among(column: string, ids: readonly number[]): string {
  const [least, most] = ids.reduce(
    ([low, high], id) => [Math.min(low, id), Math.max(high, id)],
    [Infinity, 0]
  );
  return most - least < WIDEST * ids.length
    ? `${column} BETWEEN ${least} AND ${most}`
    : `${column} = ANY('{${ids.map(Number).join(',')}}'::bigint[])`;
}
