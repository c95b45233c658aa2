import {
  spellOut,
  type TraceCut,
  type TraceDrawing,
  type TraceFigures
} from '../../core/trace/trace-answer.ts';
import { type Direction } from '../../core/trace/graph.ts';
import type { Sql } from '../kernel/db/client.ts';
import { engineOf } from './engine/engines.ts';
import { NoIndex } from './engine/engine.ts';
import { drawByIndex, figuresByIndex, jsonByIndex, marksByIndex } from './trace-by-index.ts';
import { NOTHING_REACHED, traceBySql, type ReachedScope } from './trace-by-sql.ts';

/**
 * Traces any number of marks together, as the ledger stands in one snapshot of the database: levels
 * are the shortest from any of them, content is that of all. The index answers; where it is not
 * there, SQL does.
 * @returns null where none of the marks is there
 */
export const traceMarks = (
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<TraceDrawing | null> =>
  byIndexOr(
    sql,
    (engine) => drawByIndex(sql, engine, roots, direction, cut),
    () => traceBySql(sql, roots, direction, cut)
  );

/** Traces one mark. */
export const traceMark = (
  sql: Sql,
  root: number,
  direction: Direction,
  cut: TraceCut = {}
): Promise<TraceDrawing | null> => traceMarks(sql, [root], direction, cut);

/** The figures alone: what a coordinator on the telephone asks for first. */
export const traceFigures = (
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<TraceFigures | null> =>
  byIndexOr(
    sql,
    (engine) => figuresByIndex(sql, engine, roots, direction, cut),
    async () => figuresOf(sql, await traceBySql(sql, roots, direction, cut))
  );

/**
 * A trace for a screen: drawn where it has at most so many marks, its figures alone where it has
 * more.
 * @returns null where none of the marks is there
 */
export const traceForScreen = (
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut,
  most: number
): Promise<{ drawn: TraceDrawing } | { large: TraceFigures } | null> =>
  byIndexOr(
    sql,
    async (engine) => {
      // Counted first: the figures of what is drawn come with its drawing.
      if ((await marksByIndex(sql, engine, roots, direction, cut)).length > most) {
        const large = await figuresByIndex(sql, engine, roots, direction, cut);
        return large && { large };
      }
      const drawn = await drawByIndex(sql, engine, roots, direction, cut);
      return drawn && { drawn };
    },
    async () => {
      const drawn = await traceBySql(sql, roots, direction, cut);
      return (
        drawn && (drawn.marks.length > most ? { large: (await figuresOf(sql, drawn))! } : { drawn })
      );
    }
  );

/** The marks a trace reaches, roots first. */
export const reachedMarks = (
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<number[]> =>
  byIndexOr(
    sql,
    (engine) => marksByIndex(sql, engine, roots, direction, cut),
    async () => (await traceBySql(sql, roots, direction, cut))?.marks.map((mark) => mark.id) ?? []
  );

/**
 * What a trace downstream reaches, roots first, who got of it before any of that came, and the
 * balances of the roots.
 */
export async function reachedScope(
  sql: Sql,
  roots: readonly number[],
  cut: TraceCut = {}
): Promise<ReachedScope> {
  const figures = await traceFigures(sql, roots, 'downstream', cut);
  return figures
    ? {
        marks: Array.from(figures.marks),
        cleared: figures.cleared.customers,
        clearedMarks: figures.cleared.marks.length,
        balances: figures.balances
      }
    : NOTHING_REACHED;
}

/** The API's answer as JSON text, in pieces; null where none of the marks is there. */
export const traceJson = (
  sql: Sql,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<Uint8Array[] | null> =>
  byIndexOr(
    sql,
    (engine) => jsonByIndex(sql, engine, roots, direction, cut),
    async () => {
      const trace = await traceBySql(sql, roots, direction, cut);
      return trace && [new TextEncoder().encode(JSON.stringify(spellOut(trace)))];
    }
  );

async function byIndexOr<T>(
  sql: Sql,
  byIndex: (engine: NonNullable<ReturnType<typeof engineOf>>) => Promise<T>,
  bySql: () => Promise<T>
): Promise<T> {
  const engine = engineOf(sql);
  if (!engine) return await bySql();
  try {
    return await byIndex(engine);
  } catch (error) {
    if (!(error instanceof NoIndex)) throw error;
    return await bySql();
  }
}

async function figuresOf(sql: Sql, trace: TraceDrawing | null): Promise<TraceFigures | null> {
  if (!trace) return null;
  const products = new Map(
    (await sql<{ id: number; code: string }[]>`SELECT id, code FROM product`).map((row) => [
      row.code,
      row.id
    ])
  );
  const { marks, ends, balances, roots, cleared } = trace;
  const contents = [...new Set(marks.map((mark) => mark.content ?? '0'))],
    placeOf = new Map(contents.map((text, place) => [text, place]));
  return {
    roots: roots.length,
    marks: marks.map((mark) => mark.id),
    product: marks.map((mark) => products.get(mark.product)!),
    levels: marks.map((mark) => mark.level),
    ends,
    balances,
    cleared: { marks: cleared.marks.map((mark) => mark.id), customers: cleared.customers },
    contentBy: trace.contentBy ?? null,
    content: marks.some((mark) => mark.content !== undefined)
      ? marks.map((mark) => placeOf.get(mark.content ?? '0')!)
      : null,
    contents
  };
}
