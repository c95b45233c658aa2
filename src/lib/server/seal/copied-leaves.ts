import type { Tx } from '../kernel/db/client.ts';
import { bornText } from './born-text.ts';
import {
  byJsonbOrder,
  endOfField,
  fieldOf,
  isNothing,
  keyOf,
  numberAt,
  PAST_NOTHING,
  unescaped,
  writeRow,
  type Field
} from './copied-row.ts';
import { copyLines, type Line } from './copy-lines.ts';
import { JsonBytes, JsonLists } from './json-bytes.ts';
import type { SealedColumns } from './sealed-columns.ts';
import { NOT_OF_ITS_BIRTH, SEALED_ROWS, type SealedRows } from './sealed-rows.ts';

/** A column of the event itself, or a part that its rows are. */
type Slot = Field | { name: string; first: Buffer; next: Buffer; rows: JsonLists };

/** How much wider than its events a span of ids may be and still be read as one. */
const WIDEST = 4;
/** How COPY begins what is not so. */
const LETTER_F = 102;

/**
 * Leaves put together from rows as they are copied out, a fraction of the work of having PostgreSQL
 * write them. It says what a leaf is in `leaves.ts`; this only follows: an event whose hash comes
 * out as it was sealed is as it was sealed, and of any other PostgreSQL is asked.
 */
export class CopiedLeaves {
  /** @param lanes connections it is copied over, all of them at the same time */
  constructor(
    private readonly lanes: readonly Tx[],
    private readonly columns: SealedColumns
  ) {}

  /**
   * Gives the leaves of these events to `take`, in no order, each as pieces one behind the other;
   * of an event that is not there none. Of events between them there may be some too.
   */
  async each(
    events: readonly number[],
    take: (event: number, pieces: readonly Buffer[]) => void
  ): Promise<void> {
    const parts = new Map<string, JsonLists>();
    // What has the most to it comes first, and the rest beside it.
    await this.inLanes([
      async (tx) => parts.set('made', await this.made(tx, events)),
      async (tx) => parts.set('born', await this.born(tx, events)),
      ...SEALED_ROWS.map((rows) => async (tx: Tx) => {
        parts.set(rows.part, await this.partOf(tx, rows, events));
      })
    ]);
    await this.whole(this.lanes[0]!, events, parts, take);
  }

  /** Each connection takes the next task until there is none. */
  private async inLanes(tasks: readonly ((tx: Tx) => Promise<unknown>)[]): Promise<void> {
    const next = tasks.values();
    await Promise.all(
      this.lanes.map(async (tx) => {
        for (const task of next) await task(tx);
      })
    );
  }

  private partOf(
    tx: Tx,
    { table, of, by }: SealedRows,
    events: readonly number[]
  ): Promise<JsonLists> {
    const fields = this.fieldsOf(table, [of]);
    const query = `
      SELECT x.${of}, ${listed(fields)} FROM ${table} x
      WHERE ${among(`x.${of}`, events)} ORDER BY x.${of}, x.${by}`;
    return this.rows(tx, query, fields);
  }

  private fieldsOf(table: string, without: readonly string[]): Field[] {
    return this.columns
      .get(table)!
      .filter(({ name }) => !without.includes(name))
      .map(fieldOf);
  }

  /** Rows by the number that stands before their fields. */
  private async rows(tx: Tx, query: string, fields: readonly Field[]): Promise<JsonLists> {
    const rows = new JsonLists();
    await copyLines(tx, query, (line) => {
      const end = endOfField(line, line.start);
      writeRow(rows.put(numberAt(line, line.start, end)), fields, line, end + 1);
    });
    return rows;
  }

  /** What marks were when they began: what was changed since is as it was before. */
  private async born(tx: Tx, events: readonly number[]): Promise<JsonLists> {
    const changed = await this.firstChanges(tx, events);
    const fields = this.fieldsOf('mark', NOT_OF_ITS_BIRTH);
    const rows = new JsonLists();
    const query = `
      SELECT x.birth_event, x.id, x.facts <> '{}', ${listed(fields)}, x.facts FROM mark x
      WHERE ${among('x.birth_event', events)} ORDER BY x.birth_event, x.id`;
    await copyLines(tx, query, (line) => {
      const [ofEvent, ofId, ofFacts] = endsOf(line);
      const before = changed.get(numberAt(line, ofEvent + 1, ofId));
      const isPlain = !before && line.bytes[ofId + 1] === LETTER_F;
      const to = rows.put(numberAt(line, line.start, ofEvent));
      if (isPlain) writeRow(to, fields, line, ofFacts + 1);
      else to.text(bornText(fields, line, ofFacts + 1, before));
    });
    return rows;
  }

  /** Of marks that were changed what each was before its first change, as COPY writes it. */
  private async firstChanges(
    tx: Tx,
    events: readonly number[]
  ): Promise<Map<number, Map<string, string>>> {
    const changed = new Map<number, Map<string, string>>();
    const query = `
      SELECT x.mark_id, CASE WHEN x.field = 'fact' THEN 'fact ' || x.fact ELSE x.field END,
        x.old_value
      FROM mark m JOIN mark_change x ON x.mark_id = m.id
      WHERE ${among('m.birth_event', events)} ORDER BY x.id`;
    await copyLines(tx, query, ({ bytes, start, end }) => {
      const [mark, name, before] = bytes.toString('utf8', start, end).split('\t');
      const of = changed.get(Number(mark)) ?? new Map<string, string>();
      changed.set(Number(mark), of);
      if (!of.has(unescaped(name!))) of.set(unescaped(name!), before!);
    });
    return changed;
  }

  private async made(tx: Tx, events: readonly number[]): Promise<JsonLists> {
    const [from, into] = [
      await this.sides(tx, 'transformation_input', events),
      await this.sides(tx, 'transformation_output', events)
    ];
    const rows = new JsonLists();
    const query = `
      SELECT x.event_id, x.id, x.shared FROM transformation x
      WHERE ${among('x.event_id', events)} ORDER BY x.event_id, x.id`;
    await copyLines(tx, query, (line) => {
      const [ofEvent, ofId] = endsOf(line);
      const id = numberAt(line, ofEvent + 1, ofId);
      const to = rows.put(numberAt(line, line.start, ofEvent));
      to.ascii(`{"id": ${id}`);
      writeList(to, ', "from": [', from.get(id));
      writeList(to, ', "into": [', into.get(id));
      to.ascii(`, "shared": ${line.bytes[ofId + 1] !== LETTER_F}}`);
    });
    return rows;
  }

  /** What went into transformations, or came out of them, by the transformation. */
  private sides(tx: Tx, table: string, events: readonly number[]): Promise<JsonLists> {
    const fields = this.fieldsOf(table, ['transformation_id']);
    const query = `
      SELECT x.transformation_id, ${listed(fields)}
      FROM transformation t JOIN ${table} x ON x.transformation_id = t.id
      WHERE ${among('t.event_id', events)} ORDER BY x.transformation_id, x.mark_id`;
    return this.rows(tx, query, fields);
  }

  /** Gives every leaf to `take`, as pieces one behind the other. */
  private async whole(
    tx: Tx,
    events: readonly number[],
    parts: ReadonlyMap<string, JsonLists>,
    take: (event: number, pieces: readonly Buffer[]) => void
  ): Promise<void> {
    const fields = this.fieldsOf('event', ['booked_xid']);
    const slots: Slot[] = [
      ...fields,
      ...[...parts].map(([name, rows]) => ({
        name,
        first: Buffer.from(`{${keyOf(name)}[`),
        next: Buffer.from(`, ${keyOf(name)}[`),
        rows
      }))
    ].sort((a, b) => byJsonbOrder(a.name, b.name));
    const query = `
      SELECT x.id, ${listed(fields)} FROM event x WHERE ${among('x.id', events)}`;
    await copyLines(tx, query, (line) => {
      const end = endOfField(line, line.start);
      const event = numberAt(line, line.start, end);
      take(event, piecesOf(slots, line, end + 1, event));
    });
  }
}

/** An event with its parts, its columns as they stand in the line, in the order of jsonb. */
function piecesOf(slots: readonly Slot[], line: Line, start: number, event: number): Buffer[] {
  const own = new JsonBytes();
  const pieces: Buffer[] = [];
  let [at, written] = [start, 0];
  for (const slot of slots) {
    const key = own.length === 0 ? slot.first : slot.next;
    if ('rows' in slot) {
      const list = slot.rows.get(event);
      if (!list) continue;
      own.put(key);
      pieces.push(own.slice(written, own.length), list);
      written = own.length;
      own.ascii(']');
      continue;
    }
    if (isNothing(line, at)) {
      at += PAST_NOTHING;
      continue;
    }
    own.put(key);
    at = slot.write(own, line, at) + 1;
  }
  own.ascii('}');
  return [...pieces, own.slice(written, own.length)];
}

/** Writes a list behind what comes before it, where there is anything in it. */
function writeList(to: JsonBytes, before: string, list: Buffer | undefined): void {
  if (!list) return;
  to.ascii(before);
  to.copy(list, 0, list.length);
  to.ascii(']');
}

/** Where the first three fields of a line end. */
function endsOf(line: Line): [number, number, number] {
  const first = endOfField(line, line.start);
  const second = endOfField(line, first + 1);
  return [first, second, endOfField(line, second + 1)];
}

const listed = (fields: readonly { name: string }[]): string =>
  fields.map(({ name }) => `x."${name}"`).join(', ');

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
