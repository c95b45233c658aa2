import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import type { CustomerGoods, RecallPage } from '../read-recall.ts';
import { INK, Paper, RUST, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { customerLines } from './customer-lines.ts';
import { at } from './page-parts.ts';

/**
 * The whole case as one document: what was suspected, what was found and decided, held, written,
 * answered and signed.
 */
export async function drawCaseFile(page: RecallPage): Promise<Uint8Array> {
  const paper = new Paper(page.mock ? 'Recall drill' : 'Recall case', page.number);
  const { doc, left, right } = paper;
  paper.facts([
    ['about', page.title],
    ['opened', `${at(page.openedAt)}, by ${page.openedBy}`],
    ['scope decided', page.decidedAt ? `${at(page.decidedAt)}, by ${page.decidedBy}` : 'not yet'],
    [
      'closed',
      page.closedAt
        ? `${at(page.closedAt)}, by ${page.closedBy}${page.closingReason ? `: ${page.closingReason}` : ', reconciled'}`
        : 'not yet'
    ],
    ...(page.related.length > 0
      ? [['related', page.related.map((one) => one.number).join(', ')] as const]
      : []),
    ...(page.drill
      ? [
          [
            'drill',
            `${page.drill.minutes ?? '–'} of ${page.drill.target} minutes · ${page.drill.found} % found · ${page.drill.answered} % answered in time · ${sayPassed(page.drill.passed)}`
          ] as const
        ]
      : [])
  ]);
  paper.heading('What is wrong');
  paper.paragraph(page.hazard);
  paper.heading(`Suspects (${page.suspects.length})`);
  const line = (mono: string, middle: string, end: string, red = false) => {
    paper.space(15);
    writeAt(doc, fitted(doc, mono, mm(44), { face: 'mono' }), left, paper.y, { face: 'mono' });
    writeAt(doc, fitted(doc, middle, mm(96)), left + mm(46), paper.y, { colour: SOFT });
    writeAt(doc, end, left, paper.y, {
      width: right - left,
      align: 'right',
      colour: red ? RUST : INK
    });
    paper.y += 13;
  };
  for (const one of page.suspects)
    line(
      one.number ?? one.product,
      `${one.product} ${one.name}${one.why ? ` · ${one.why}` : ''}`,
      one.standing
    );
  for (const one of page.balances) {
    const mark = page.suspects.find((suspect) => suspect.id === one.mark);
    line(
      mark?.number ?? '',
      `came in ${one.in} = here ${one.onHand} + used ${one.used} + shipped ${one.shipped} + scrapped ${one.scrapped}, corrected ${one.corrected}`,
      one.open === '0' ? 'closes' : `open ${one.open}`,
      one.open !== '0'
    );
  }
  paper.heading(`Customers (${page.customers.length})`);
  for (const customer of page.customers) writeCustomer(paper, page, customer, line);
  const here = page.hereThen ?? page.here;
  paper.heading(
    `Here${page.hereThen ? ' when the scope was decided' : ''} (${new Set(here.map((one) => one.id)).size})`
  );
  for (const one of here)
    line(
      one.number ?? one.product,
      `${one.product} · ${one.placeName} · ${one.standing}`,
      `${one.quantity} ${one.unit}`,
      one.standing === 'usable'
    );
  if (page.change.shipments.length > 0) {
    paper.heading('Shipped since the scope was decided');
    for (const customer of page.changeRows)
      for (const row of customer.rows)
        line(
          row.number ?? row.product,
          `${customer.name} · ${row.document}, ${sayDay(row.day)}`,
          `${row.quantity} ${row.unit}`,
          true
        );
  }
  paper.heading('What was done');
  for (const one of page.log) {
    paper.space(15);
    writeAt(doc, at(one.at), left, paper.y, { points: 8, colour: SOFT });
    writeAt(
      doc,
      fitted(doc, `${one.says} (${one.who})`, right - left - mm(40)),
      left + mm(40),
      paper.y
    );
    paper.y += 13;
  }
  paper.heading('Signed off');
  if (page.signatures.length === 0) paper.paragraph('Nobody has signed yet.');
  for (const one of page.signatures) paper.paragraph(`Approved by ${one.who}, ${at(one.at)}`);
  for (const one of page.scopeSigned)
    paper.paragraph(`Scope ${one.means} ${one.by}, ${at(one.at)}: ${one.reason}`);
  return paper.end(`${page.number} · ${page.reached} lots and serials traced`);
}

function sayPassed(passed: boolean | null): string {
  if (passed === null) return 'still running';
  return passed ? 'passed' : 'not passed';
}

type WriteLine = (mono: string, middle: string, end: string, red?: boolean) => void;

/** A customer: what they had, the letters to them, and what they answered lot by lot. */
function writeCustomer(
  paper: Paper,
  page: RecallPage,
  customer: CustomerGoods,
  line: WriteLine
): void {
  const { doc, left, right } = paper;
  const own = page.standing.customers.find((one) => one.partner === customer.partner)!;
  paper.space(56);
  writeAt(doc, customer.name, left, paper.y, { face: 'bold', points: 10 });
  writeAt(doc, `${Math.floor(own.part * 1000) / 10} % accounted for`, left, paper.y, {
    ...{ width: right - left, align: 'right', points: 9 },
    colour: own.part === 1 ? SOFT : RUST
  });
  paper.y += 13;
  for (const one of customerLines(page, customer)) {
    if (one.goods) {
      line(one.goods.number, one.text, one.goods.quantity);
      continue;
    }
    paper.space(14);
    writeAt(doc, fitted(doc, one.text, right - left), left, paper.y, { points: 8, colour: SOFT });
    paper.y += 12;
  }
}

/** The same, drawn apart. */
export const caseFilePdf = apart('case-file', drawCaseFile);
