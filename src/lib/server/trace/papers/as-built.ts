import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import type { AsBuiltLine } from '../../../core/making/as-built.ts';
import type { AsBuiltAnswer, AskedRecord } from '../as-built.ts';
import { INK, Paper, PAPER_WIDTH, RUST, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';

/** What stands under a part: its lot, dates, supplier, and where and by whom it was made. */
export function saidOf(line: AsBuiltLine, zone: string): string {
  const { mark, making } = line;
  if (!mark) return '';
  return [
    mark.kind === 'bulk' ? 'unmarked' : '',
    mark.lot && mark.kind === 'serial' ? `lot ${mark.lot}` : '',
    mark.expires ? `expires ${sayDay(mark.expires)}` : '',
    mark.state === 'usable' ? '' : mark.state,
    mark.supplier ? `from ${mark.supplier}` : '',
    mark.supplierNumber ? `theirs ${mark.supplierNumber}` : '',
    making
      ? `${making.kind} ${making.document}, ${sayInstantAt(new Date(making.at), zone)}, ${making.who}`
      : '',
    line.shared ? 'its share of a batch' : '',
    line.repeated ? 'its parts stand above' : ''
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What the record is called: as it was built, as it is, or as it was on a day. */
export function nameOfRecord({ as, day }: AskedRecord): string {
  if (day !== undefined) return `What was in it on ${sayDay(day)}`;
  return as === 'is' ? 'What is in it' : 'As-built record';
}

/** The record as a PDF: every part through all levels, compared with its bill. */
export async function drawAsBuilt(
  record: AsBuiltAnswer,
  asked: AskedRecord,
  now: Date
): Promise<Uint8Array> {
  const { mark, lines, counts, zone } = record;
  const paper = new Paper(nameOfRecord(asked), `${mark.product} ${mark.number ?? ''}`.trim());
  const { doc, left, right } = paper;
  const making = lines[0]!.making;
  const verdicts = Object.entries(counts)
    .map(([verdict, count]) => `${count} ${verdict}`)
    .join(', ');
  paper.facts([
    ['product', `${mark.product} ${mark.name}`],
    [mark.kind, mark.number ?? 'unmarked'],
    ...(mark.lot && mark.kind === 'serial' ? [['within lot', mark.lot] as const] : []),
    ...(mark.expires ? [['expires', sayDay(mark.expires)] as const] : []),
    [
      'made',
      making
        ? `${making.document}, ${sayInstantAt(new Date(making.at), zone)}, by ${making.who}${making.bill ? `, bill version ${making.bill}` : ''}`
        : mark.supplier
          ? `not here: received from ${mark.supplier}`
          : 'not recorded here'
    ],
    [
      'compared with its bills',
      lines.length === 1
        ? 'nothing is recorded as having gone in'
        : verdicts || 'everything as the bills say'
    ],
    ['as of', sayInstantAt(now, zone)]
  ]);
  paper.rule(INK);
  for (const line of lines.slice(1)) {
    paper.space(30);
    const x = left + mm((line.level - 1) * 6);
    const name = line.mark?.name ?? '';
    const head = writeAt(doc, line.product, x, paper.y, { face: 'mono', points: 9.5 });
    const number = line.mark ? (line.mark.number ?? 'unmarked') : 'MISSING';
    const at = x + head + 8;
    const numberWidth = writeAt(doc, number, at, paper.y, {
      face: line.mark?.number ? 'mono' : 'sans',
      points: 9.5,
      colour: line.mark ? INK : RUST
    });
    const more = [line.position ?? '', name].filter(Boolean).join(' · ');
    const amount =
      `${line.mark ? line.quantity : `0 of ${line.wanted}`} ${line.mark?.unit ?? ''}`.trim();
    const room = right - at - numberWidth - 8 - mm(46);
    if (room > 20)
      writeAt(doc, fitted(doc, more, room), at + numberWidth + 8, paper.y, { colour: SOFT });
    writeAt(
      doc,
      line.verdict && line.verdict !== 'as the bill says'
        ? `${amount} · ${line.verdict}${line.instead ? ` for ${line.instead}` : ''}`
        : amount,
      left,
      paper.y,
      {
        points: 9,
        width: right - left,
        align: 'right',
        colour: line.verdict && line.verdict !== 'as the bill says' ? RUST : INK
      }
    );
    paper.y += 12;
    const said = saidOf(line, zone);
    if (said) {
      writeAt(doc, fitted(doc, said, right - x - mm(2), { points: 8 }), x + mm(2), paper.y, {
        points: 8,
        colour: SOFT
      });
      paper.y += 12;
    }
    paper.y += 2;
  }
  if (record.cut) {
    paper.space(20);
    writeAt(doc, `More than ${lines.length} parts; the rest is in the trace.`, left, paper.y, {
      colour: RUST
    });
  }
  paper.y += 6;
  paper.space(20);
  writeAt(
    doc,
    fitted(
      doc,
      'Quantities from lots are their even share: mixing within a lot is assumed to be even.',
      mm(PAPER_WIDTH),
      { points: 8 }
    ),
    left,
    paper.y,
    { points: 8, colour: SOFT }
  );
  return paper.end(`${nameOfRecord(asked)}: ${mark.product} ${mark.number ?? ''}`);
}

/** The same, drawn apart. */
export const asBuiltPdf = apart('as-built', drawAsBuilt);
