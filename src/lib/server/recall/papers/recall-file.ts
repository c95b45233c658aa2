import { HOME_ZONE } from '../../../core/calendar/day.ts';
import writeXlsx from 'write-excel-file/node';
import { sayDay } from '../../../core/calendar/say-day.ts';
import type { NoticeContent } from '../write-recall.ts';
import type { RecallPage } from '../read-recall.ts';
import { INK, Paper, RUST, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';

const at = (iso: string): string => sayInstantAt(new Date(iso), HOME_ZONE);

/** A text over as many lines as it takes. */
function paragraph(paper: Paper, text: string, points = 10): void {
  const { doc, left, right } = paper;
  for (const part of text.split('\n')) {
    let line = '';
    const put = () => {
      paper.space(16);
      if (line) writeAt(doc, line, left, paper.y, { points });
      paper.y += points * 1.45;
      line = '';
    };
    for (const word of part.split(/\s+/)) {
      const longer = line ? `${line} ${word}` : word;
      if (fitted(doc, longer, right - left, { points }) !== longer && line) put();
      line = line ? `${line} ${word}` : word;
    }
    put();
  }
  paper.y += 4;
}

function heading(paper: Paper, text: string): void {
  paper.space(50);
  paper.y += 4;
  paper.rule(INK);
  writeAt(paper.doc, text, paper.left, paper.y, { face: 'bold', points: 12 });
  paper.y += 20;
}

/**
 * The letter to one customer: what is wrong, what to do, and which of their goods it is about, to
 * be sent back filled in.
 */
export async function noticePdf(content: NoticeContent, sentAt: string): Promise<Uint8Array> {
  const paper = new Paper(content.mock ? 'Recall drill: notice' : 'Recall notice', content.number);
  const { doc, left, right } = paper;
  paper.facts([
    ['from', [content.from, ...content.address.split('\n')].filter(Boolean).join(', ')],
    ['to', `${content.name} (${content.partner})`],
    ['date', at(sentAt)],
    ['about', content.title]
  ]);
  if (content.mock)
    paragraph(
      paper,
      'This is a drill. Nothing is wrong with your goods, and nothing needs to be done with them.'
    );
  heading(paper, 'What is wrong');
  paragraph(paper, content.hazard);
  if (content.request) {
    heading(paper, 'What we ask you to do');
    paragraph(paper, content.request);
  }
  heading(paper, 'What you have of it, by our records');
  for (const one of content.goods) {
    paper.space(16);
    writeAt(doc, one.number ?? 'without number', left, paper.y, {
      face: one.number ? 'mono' : 'sans',
      points: 9.5
    });
    writeAt(doc, fitted(doc, `${one.product} ${one.productName}`, mm(62)), left + mm(42), paper.y);
    writeAt(
      doc,
      fitted(doc, `${one.document}, ${sayDay(one.day)}`, mm(44)),
      left + mm(106),
      paper.y,
      { colour: SOFT }
    );
    writeAt(doc, `${one.quantity} ${one.unit}`, left, paper.y, {
      width: right - left,
      align: 'right',
      face: 'bold'
    });
    paper.y += 15;
  }
  heading(paper, 'Your answer');
  for (const says of ['returned to us', 'destroyed with you', 'used or not found, and why']) {
    paper.space(24);
    writeAt(doc, says, left, paper.y);
    doc
      .moveTo(left + mm(60), paper.y + 11)
      .lineTo(right, paper.y + 11)
      .lineWidth(0.6)
      .stroke(SOFT);
    paper.y += 24;
  }
  return paper.end(
    `${content.number} · ${content.goods.length} ${content.goods.length === 1 ? 'line' : 'lines'}`
  );
}

/**
 * The whole case as one document: what was suspected, what was found and decided, held, written,
 * answered and signed.
 */
export async function caseFilePdf(page: RecallPage): Promise<Uint8Array> {
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
            `${page.drill.minutes ?? '–'} of ${page.drill.target} minutes · ${page.drill.found} % found · ${page.drill.passed === null ? 'still running' : page.drill.passed ? 'passed' : 'not passed'}`
          ] as const
        ]
      : [])
  ]);
  heading(paper, 'What is wrong');
  paragraph(paper, page.hazard);
  heading(paper, `Suspects (${page.suspects.length})`);
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
  heading(paper, `Customers (${page.customers.length})`);
  for (const customer of page.customers) {
    const own = page.standing.customers.find((one) => one.partner === customer.partner)!;
    paper.space(40);
    writeAt(doc, customer.name, left, paper.y, { face: 'bold', points: 10 });
    writeAt(
      doc,
      `${Math.floor(own.part * 1000) / 10} % accounted for · had ${own.had} · returned ${own.returned} · destroyed ${own.destroyed} · written off ${own.writtenOff} · open ${own.open}`,
      left,
      paper.y,
      { width: right - left, align: 'right', points: 8, colour: own.open === '0' ? SOFT : RUST }
    );
    paper.y += 15;
    for (const row of customer.rows)
      line(
        row.number ?? row.product,
        `${row.product} · ${row.document}, ${sayDay(row.day)}`,
        `${row.quantity} ${row.unit}`
      );
  }
  const here = page.hereThen ?? page.here;
  heading(
    paper,
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
    heading(paper, 'Shipped since the scope was decided');
    for (const customer of page.changeRows)
      for (const row of customer.rows)
        line(
          row.number ?? row.product,
          `${customer.name} · ${row.document}, ${sayDay(row.day)}`,
          `${row.quantity} ${row.unit}`,
          true
        );
  }
  heading(paper, 'What was done');
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
  heading(paper, 'Signed off');
  if (page.signatures.length === 0) paragraph(paper, 'Nobody has signed yet.');
  for (const one of page.signatures) paragraph(paper, `${one.who}, ${at(one.at)}`);
  return paper.end(`${page.number} · ${page.reached} lots and serials traced`);
}

/**
 * The case as a workbook: a sheet each for suspects, customers, what is here, answers and what was
 * done.
 */
export async function caseFileXlsx(page: RecallPage): Promise<Uint8Array> {
  const sheet = (headings: string[], rows: string[][]) => [
    headings.map((value) => ({ value, fontWeight: 'bold' as const })),
    ...rows.map((row) => row.map((value) => ({ type: String, value })))
  ];
  const sheets: [string, string[], string[][]][] = [
    [
      'Case',
      ['what', 'says'],
      [
        ['number', page.number],
        ['title', page.title],
        ['drill', page.mock ? 'yes' : 'no'],
        ['what is wrong', page.hazard],
        ['opened', page.openedAt],
        ['scope decided', page.decidedAt ?? ''],
        ['closed', page.closedAt ?? ''],
        ['closing reason', page.closingReason ?? ''],
        ['signed', page.signatures.map((one) => `${one.who} ${one.at}`).join('; ')],
        ...(page.drill
          ? [
              ['minutes', String(page.drill.minutes ?? '')],
              ['target', String(page.drill.target)],
              ['found per cent', page.drill.found]
            ]
          : [])
      ]
    ],
    [
      'Suspects',
      [
        'product',
        'number',
        'state',
        'why',
        'came in',
        'here',
        'used',
        'shipped',
        'scrapped',
        'corrected',
        'open'
      ],
      page.suspects.map((one) => {
        const balance = page.balances.find((row) => row.mark === one.id);
        return [
          one.product,
          one.number ?? '',
          one.standing,
          one.why,
          balance?.in ?? '',
          balance?.onHand ?? '',
          balance?.used ?? '',
          balance?.shipped ?? '',
          balance?.scrapped ?? '',
          balance?.corrected ?? '',
          balance?.open ?? ''
        ];
      })
    ],
    [
      'Customers',
      ['customer', 'name', 'product', 'number', 'document', 'day', 'quantity', 'unit'],
      page.customers.flatMap((customer) =>
        customer.rows.map((row) => [
          customer.partner,
          customer.name,
          row.product,
          row.number ?? '',
          row.document,
          row.day,
          row.quantity,
          row.unit
        ])
      )
    ],
    [
      'Standing',
      ['customer', 'had', 'returned', 'destroyed', 'written off', 'open', 'notified'],
      page.standing.customers.map((one) => [
        one.partner,
        one.had,
        one.returned,
        one.destroyed,
        one.writtenOff,
        one.open,
        one.notified ? 'yes' : 'no'
      ])
    ],
    [
      'Here',
      ['product', 'number', 'place', 'quantity', 'unit', 'state'],
      (page.hereThen ?? page.here).map((one) => [
        one.product,
        one.number ?? '',
        one.place,
        one.quantity,
        one.unit,
        one.standing
      ])
    ],
    [
      'Answers',
      ['when', 'customer', 'product', 'number', 'outcome', 'quantity', 'unit', 'note', 'taken by'],
      page.answers.map((one) => [
        one.toldAt,
        one.partner,
        one.product,
        one.number ?? '',
        one.outcome,
        one.quantity,
        one.unit,
        one.note,
        one.who
      ])
    ],
    ['What was done', ['when', 'who', 'what'], page.log.map((one) => [one.at, one.who, one.says])]
  ];
  const book = await writeXlsx(
    sheets.map(([name, headings, rows]) => ({
      data: sheet(headings, rows),
      sheet: name,
      columns: headings.map((one) => ({ width: Math.max(12, one.length + 2) })),
      stickyRowsCount: 1
    })) as never
  ).toBuffer();
  return new Uint8Array(book as Buffer);
}
