import writeXlsx from 'write-excel-file/node';
import { sayAmounts } from '../../../core/recall/amounts.ts';
import type { RecallPage } from '../read-recall.ts';

interface Sheet {
  name: string;
  headings: string[];
  rows: string[][];
}

/**
 * The case as a workbook: a sheet each for suspects, customers, what is here, answers, letters and
 * what was done.
 */
export async function caseFileXlsx(page: RecallPage): Promise<Uint8Array> {
  const sheets = [
    ...[caseSheet(page), suspectsSheet(page), customersSheet(page), standingSheet(page)],
    ...[hereSheet(page), answersSheet(page), lettersSheet(page), doneSheet(page)]
  ];
  const book = await writeXlsx(
    sheets.map(({ name, headings, rows }) => ({
      data: [
        headings.map((value) => ({ value, fontWeight: 'bold' as const })),
        ...rows.map((row) => row.map((value) => ({ type: String, value })))
      ],
      sheet: name,
      columns: headings.map((one) => ({ width: Math.max(12, one.length + 2) })),
      stickyRowsCount: 1
    })) as never
  ).toBuffer();
  return new Uint8Array(book as Buffer);
}

function caseSheet(page: RecallPage): Sheet {
  const { drill } = page;
  const score = drill && [
    ['minutes', String(drill.minutes ?? '')],
    ['target', String(drill.target)],
    ['found per cent', drill.found],
    ['answered in time per cent', drill.answered]
  ];
  return {
    name: 'Case',
    headings: ['what', 'says'],
    rows: [
      ['number', page.number],
      ['title', page.title],
      ['drill', page.mock ? 'yes' : 'no'],
      ['what is wrong', page.hazard],
      ['opened', page.openedAt],
      ['scope decided', page.decidedAt ?? ''],
      ['closed', page.closedAt ?? ''],
      ['closing reason', page.closingReason ?? ''],
      ['signed', page.signatures.map((one) => `${one.who} ${one.at}`).join('; ')],
      ...(score ?? [])
    ]
  };
}

function suspectsSheet(page: RecallPage): Sheet {
  const rows = page.suspects.map((one) => {
    const balance = page.balances.find((row) => row.mark === one.id);
    const became = balance
      ? [balance.in, balance.onHand, balance.used, balance.shipped, balance.scrapped]
      : ['', '', '', '', ''];
    const rest = [balance?.corrected ?? '', balance?.open ?? ''];
    return [one.product, one.number ?? '', one.standing, one.why, ...became, ...rest];
  });
  const headings = [
    ...['product', 'number', 'state', 'why', 'came in', 'here', 'used'],
    ...['shipped', 'scrapped', 'corrected', 'open']
  ];
  return { name: 'Suspects', headings, rows };
}

const customersSheet = (page: RecallPage): Sheet => ({
  name: 'Customers',
  headings: ['customer', 'name', 'product', 'number', 'document', 'day', 'quantity', 'unit'],
  rows: page.customers.flatMap(({ partner, name, rows }) =>
    rows.map((row) => [
      ...[partner, name, row.product, row.number ?? ''],
      ...[row.document, row.day, row.quantity, row.unit]
    ])
  )
});

const standingSheet = (page: RecallPage): Sheet => ({
  name: 'Standing',
  headings: [
    ...['customer', 'had', 'returned', 'said to be returned', 'destroyed', 'written off'],
    ...['open', 'notified']
  ],
  rows: page.standing.customers.map((one) => [
    one.partner,
    ...[one.had, one.returned, one.reported, one.destroyed, one.writtenOff, one.open].map(
      (amounts) => sayAmounts(amounts)
    ),
    one.notified ? 'yes' : 'no'
  ])
});

const hereSheet = (page: RecallPage): Sheet => ({
  name: 'Here',
  headings: ['product', 'number', 'place', 'quantity', 'unit', 'state'],
  rows: (page.hereThen ?? page.here).map((one) => [
    ...[one.product, one.number ?? '', one.place],
    ...[one.quantity, one.unit, one.standing]
  ])
});

const answersSheet = (page: RecallPage): Sheet => ({
  name: 'Answers',
  headings: [
    ...['when', 'customer', 'product', 'number', 'outcome', 'quantity', 'unit'],
    ...['note', 'taken by']
  ],
  rows: page.answers.map((one) => [
    ...[one.toldAt, one.partner, one.product, one.number ?? '', one.outcome],
    ...[one.quantity, one.unit, one.note, one.who]
  ])
});

const lettersSheet = (page: RecallPage): Sheet => ({
  name: 'Letters',
  headings: ['when', 'customer', 'letter', 'sent by'],
  rows: page.notices.map((one) => [
    ...[one.sentAt, one.partner, one.kind],
    one.byItself ? `${one.who}, by itself` : one.who
  ])
});

const doneSheet = (page: RecallPage): Sheet => ({
  name: 'What was done',
  headings: ['when', 'who', 'what'],
  rows: page.log.map((one) => [one.at, one.who, one.says])
});
