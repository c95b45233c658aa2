// Answers questions from a packed ledger that it shares with other readers, and from what was
// booked since, which it keeps itself.
import { parentPort } from 'node:worker_threads';
import { packedSources } from '../../../core/trace/packed-sources.ts';
import { OpenLedger } from '../../../core/trace/packed/open-ledger.ts';
import { packedGraph } from '../../../core/trace/packed/packed-drawing.ts';
import { packedFigures } from '../../../core/trace/packed/packed-figures.ts';
import { linesJson, linksJson } from '../../../core/trace/packed/packed-json.ts';
import { clearedMarks } from '../../../core/trace/packed/cleared.ts';
import { packedLines } from '../../../core/trace/packed/packed-lines.ts';
import { Walker } from '../../../core/trace/packed/packed-walk.ts';
import type { FromReader, ToReader, TraceQuestion } from './messages.ts';
import type { Names } from './read-booked.ts';

let walker: Walker | null = null;
/** For what lies beyond what a walk reached, which must stay as it is. */
let wide: Walker | null = null;
const unitOf = new Map<number, string>(),
  unitNumbers = new Map<string, number>(),
  placeOf = new Map<number, string>();

function learn(names: Names): void {
  for (const [product, unit] of names.units) unitOf.set(product, unit);
  for (const [place, code] of names.places) placeOf.set(place, code);
}

/** Units by number: whether two products have one is all that is asked. */
function unitNumber(product: number): number {
  const unit = unitOf.get(product) ?? '';
  let number = unitNumbers.get(unit);
  if (number === undefined) unitNumbers.set(unit, (number = unitNumbers.size + 1));
  return number;
}

const send = (message: FromReader, moved: ArrayBufferLike[] = []): void => {
  parentPort!.postMessage(message, moved as ArrayBuffer[]);
};

function trace(id: number, { roots, direction, cut, want }: TraceQuestion, open: Walker): void {
  const reached = open.walk(roots, direction, cut);
  const { marks, levelStarts } = reached;
  const rootCount = levelStarts[1] ?? 0;
  const walked = {
    roots: rootCount,
    marks: marks.data.slice(0, marks.length),
    levelStarts: [...levelStarts],
    products: Uint32Array.from({ length: marks.length }, (_, place) =>
      open.ledger.productOf(marks.data[place]!)
    )
  };
  const beyond = (): Walker => (wide ??= new Walker(open.ledger));
  const cleared =
    want === 'marks' ? new Uint32Array(0) : clearedMarks(beyond, reached, roots, direction, cut);
  const figures =
    want === 'marks'
      ? null
      : packedFigures(open, reached, cleared, rootCount, direction, cut, unitNumber);
  const graph = want === 'drawing' ? packedGraph(open.ledger, reached) : null;
  const lines = want === 'drawing' ? packedLines(open.ledger, reached, cut) : null;
  send({ id, part: 'trace', reply: { walked, cleared, figures, graph, lines } }, [
    walked.marks.buffer
  ]);
  if (want !== 'json') return;
  // The asker reads the marks' numbers meanwhile.
  const links = linksJson(packedGraph(open.ledger, reached)),
    all = packedLines(open.ledger, reached, cut);
  const { bytes, start } = linesJson(all, (place) => placeOf.get(place) ?? '');
  send({ id, part: 'json', reply: { links, lines: bytes, start, events: all.events } }, [
    links.buffer,
    bytes.buffer
  ]);
}

parentPort!.on('message', (message: ToReader) => {
  if (message.do === 'open') {
    const ledger = new OpenLedger(message.ledger);
    learn(message.names);
    for (const { rows, names } of message.since) {
      ledger.add(rows);
      learn(names);
    }
    walker = new Walker(ledger);
    wide = null;
    return;
  }
  if (message.do === 'add') {
    walker!.ledger.add(message.rows);
    learn(message.names);
    return;
  }
  try {
    if (message.question.about === 'trace') trace(message.id, message.question, walker!);
    else
      send({
        id: message.id,
        part: 'sources',
        reply: packedSources(
          walker!,
          message.question.troubled,
          message.question.population,
          message.question.most
        )
      });
  } catch (error) {
    send({ id: message.id, part: 'failed', message: (error as Error).stack ?? String(error) });
  }
});
