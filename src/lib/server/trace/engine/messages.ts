import type { PackedPopulation, PackedSource } from '../../../core/trace/packed-sources.ts';
import type { Direction } from '../../../core/trace/graph.ts';
import type { BookedRows } from '../../../core/trace/packed/booked-rows.ts';
import type { PackedGraph } from '../../../core/trace/packed/packed-drawing.ts';
import type { PackedFigures } from '../../../core/trace/packed/packed-figures.ts';
import type { PackedLedger } from '../../../core/trace/packed/packed-ledger.ts';
import type { PackedLines } from '../../../core/trace/packed/packed-lines.ts';
import type { PackedCut } from '../../../core/trace/packed/reached.ts';
import type { Names } from './read-booked.ts';

/**
 * What a trace is asked for: the marks alone; the figures too; genealogy and lines too; or those as
 * JSON text.
 */
export type Want = 'marks' | 'figures' | 'drawing' | 'json';
export interface TraceQuestion {
  about: 'trace';
  roots: number[];
  direction: Direction;
  cut: PackedCut;
  want: Want;
}
export interface SourcesQuestion {
  about: 'sources';
  troubled: number[];
  population: PackedPopulation;
  most: number;
}
export type Question = TraceQuestion | SourcesQuestion;

/** Marks in the order of the walk, roots first, with where each level begins. */
export interface WalkedMarks {
  roots: number;
  marks: Uint32Array;
  levelStarts: number[];
  /** Product id of each mark. */ products: Uint32Array;
}
/**
 * Parts of an answer that are JSON text already: links; and the lines of each event, from `start`.
 */
export interface JsonParts {
  links: Uint8Array;
  lines: Uint8Array;
  start: Uint32Array;
  events: Uint32Array;
}
export interface TraceReply {
  walked: WalkedMarks;
  /** Marks that time cleared, where the figures were asked for. */
  cleared: Uint32Array;
  figures: PackedFigures | null;
  graph: PackedGraph | null;
  lines: PackedLines | null;
}
export interface SourcesReply {
  population: number;
  sources: PackedSource[];
}

/**
 * To a reader: a ledger to read from now on; what was booked since; a question. They are done in
 * the order they come, so a question is answered as of all before it.
 */
export type ToReader =
  | { do: 'open'; ledger: PackedLedger; since: { rows: BookedRows; names: Names }[]; names: Names }
  | { do: 'add'; rows: BookedRows; names: Names }
  | { do: 'answer'; id: number; question: Question };
export type FromReader =
  | { id: number; part: 'trace'; reply: TraceReply }
  | { id: number; part: 'json'; reply: JsonParts }
  | { id: number; part: 'sources'; reply: SourcesReply }
  | { id: number; part: 'failed'; message: string };
