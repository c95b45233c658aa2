import { beyondTime, NOTHING_BEYOND, type BeyondTime } from '../../core/trace/beyond-time.ts';
import type { TraceCut, TraceDrawing } from '../../core/trace/trace-answer.ts';
import type { Sql } from '../kernel/db/client.ts';
import { reachedMarks, reachedScope } from './trace.ts';

/**
 * What a drawn trace has only because its clocks are ignored: the same question is asked again with
 * the clocks obeyed. Nothing where they were.
 */
export async function readBeyondTime(
  sql: Sql,
  trace: TraceDrawing,
  cut: TraceCut
): Promise<BeyondTime> {
  if (cut.clocks !== 'ignore') return NOTHING_BEYOND;
  const roots = trace.roots.map((root) => root.id);
  const inTime: TraceCut = { ...cut, clocks: 'obey' };
  const { marks, cleared } =
    trace.direction === 'downstream'
      ? await reachedScope(sql, roots, inTime)
      : { marks: await reachedMarks(sql, roots, 'upstream', inTime), cleared: [] };
  return beyondTime(
    { marks: trace.marks.map((mark) => mark.id), customers: trace.ends.customers },
    { marks, cleared }
  );
}
