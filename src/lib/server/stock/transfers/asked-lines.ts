import type { MoveLine } from '../../../core/ledger/request.ts';
import { toldAt } from '../../kernel/told-at.ts';

interface Named {
  lot?: string | undefined;
  serial?: string | undefined;
  quantity?: string | undefined;
}
interface AskedLine {
  product: string;
  quantity?: string | undefined;
  marks?: Named[] | undefined;
}

/** A line of a transfer as moves, a mark each; and where each of them stands in the request. */
export interface AskedMoves {
  moves: MoveLine[];
  /** By move: the line, and the mark in it; null where the line names none. */
  stands: { line: number; mark: number | null }[];
}

/** @param way the places a line’s goods go from and to */
export function askedMoves<Line extends AskedLine>(
  lines: readonly Line[],
  way: (line: Line) => { from: string; to: string }
): AskedMoves {
  const asked: AskedMoves = { moves: [], stands: [] };
  lines.forEach((line, at) => {
    const marks = line.marks?.length ? line.marks : [null];
    marks.forEach((mark, nth) => {
      asked.moves.push({ product: line.product, ...way(line), ...named(line, mark, marks.length) });
      asked.stands.push({ line: at, mark: mark === null ? null : nth });
    });
  });
  return asked;
}

/** A lot named alone has the quantity of its line. */
function named(line: AskedLine, mark: Named | null, count: number): Partial<MoveLine> {
  const own = mark?.quantity ?? (count === 1 && !mark?.serial ? line.quantity : undefined);
  return {
    ...(mark?.lot === undefined ? {} : { lot: mark.lot }),
    ...(mark?.serial === undefined ? {} : { serial: mark.serial }),
    ...(own === undefined ? {} : { quantity: own })
  };
}

/** Runs a booking of such moves; what it refuses is told where it stands in the request. */
export const toldWhereAsked = <T>(asked: AskedMoves, work: () => Promise<T>): Promise<T> =>
  toldAt(work, (path) => pathBack(asked, path));

/** `lines[3]` of the moves → `lines[1].marks[2]` of the request. */
function pathBack({ stands }: AskedMoves, path: string): string {
  const [, index, rest = ''] = /^lines\[(\d+)\](.*)$/.exec(path) ?? [];
  const there = index === undefined ? undefined : stands[Number(index)];
  if (!there) return path;
  const line = `lines[${there.line}]`;
  // Product and place are the line's own; everything else is said of the mark.
  if (/^\.(product|place|from|to)$/.test(rest)) return `${line}${rest.replace(/from|to/, 'place')}`;
  return there.mark === null ? line + rest : `${line}.marks[${there.mark}]${rest}`;
}
