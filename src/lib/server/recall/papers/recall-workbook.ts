import writeXlsx from 'write-excel-file/node';
import { sayAmounts } from '../../../core/recall/amounts.ts';
import type { RecallPage } from '../read-recall.ts';

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
              ['found per cent', page.drill.found],
              ['answered in time per cent', page.drill.answered]
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
      [
        ...['customer', 'had', 'returned', 'said to be returned', 'destroyed', 'written off'],
        ...['open', 'notified']
      ],
      page.standing.customers.map((one) => [
        one.partner,
        ...[one.had, one.returned, one.reported, one.destroyed, one.writtenOff, one.open].map(
          (amounts) => sayAmounts(amounts)
        ),
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
    [
      'Letters',
      ['when', 'customer', 'letter', 'sent by'],
      page.notices.map((one) => [
        one.sentAt,
        one.partner,
        one.kind,
        one.byItself ? `${one.who}, by itself` : one.who
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
