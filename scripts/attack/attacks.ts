import type { Answered, Attacker } from './attacker.ts';
import { farRow, hugeCell, manyLines, manyProducts } from './hostile-files.ts';

/** One thing tried; what it was answered with. */
export interface Attack {
  name: string;
  run: (by: Attacker) => Promise<Answered[]>;
}

const MB = 1_000_000;
const times = <T>(count: number, make: (n: number) => T): T[] =>
  Array.from({ length: count }, (_, n) => make(n));
/** One request; its path as `send` of the attacker wants it. */
const single =
  (who: 'send' | 'asNobody', root: string) =>
  (
    name: string,
    method: string,
    path: string,
    body?: () => object | string | Uint8Array
  ): Attack => ({
    name,
    run: async (by) => [await by[who](method, `${root}${path}`, body?.())]
  });
const one = single('send', '/api/v1/');
const asNobody = single('asNobody', '');

/** Many of the same at once. */
const atOnce = (
  name: string,
  count: number,
  send: (by: Attacker, n: number) => Promise<Answered>
): Attack => ({
  name,
  run: (by) => Promise.all(times(count, (n) => send(by, n)))
});

const members = (count: number): string => `{${times(count, (n) => `"k${n}":1`).join(',')}}`;
const SERIALS = 20_000,
  A_BOOKING = 10_000;
const serial = (n: number): string => `ATT-${n}`;
const marks = (from: number, count: number) => times(count, (n) => ({ serial: serial(from + n) }));
const line = (from: number, count: number) => ({
  ...{ product: 'ATT-UNIT', place: 'DN-BENCH', quantity: String(count) },
  marks: marks(from, count)
});

/** What the attacks ask for. */
interface Prepared {
  receipt: number;
  shipment: number;
  recall: string;
  /** Ids of ten thousand serials. */
  ids: number[];
}

/** Goods to be attacked: twenty thousand serials received and shipped, and a recall of them. */
export async function prepare(by: Attacker): Promise<Prepared> {
  const unit = { name: 'attacked', unit: 'each', decimals: 0, made: false, marking: 'serial' };
  await by.taken('PUT', 'products/ATT-UNIT', unit);
  await by.taken('PUT', 'partners/ATT-CUS', { name: 'attacked', supplier: false, customer: true });
  let receipt = 0,
    ids: number[] = [];
  for (let from = 0; from < SERIALS; from += A_BOOKING) {
    const booked = (await by.taken('POST', 'receipts', {
      ...{ document: `ATT-R${from}`, supplier: 'PELLWORM', lines: [line(from, A_BOOKING)] }
    })) as { event: { id: number }; marks: { id: number }[] };
    receipt = booked.event.id;
    ids = booked.marks.map((mark) => mark.id);
  }
  const shipped = (await by.taken('POST', 'shipments', {
    ...{ document: 'ATT-S', customer: 'ATT-CUS' },
    lines: [{ product: 'ATT-UNIT', marks: marks(0, A_BOOKING) }]
  })) as { event: { id: number } };
  const opened = (await by.taken('POST', 'recalls', {
    ...{ title: 'A'.repeat(200), hazard: 'x'.repeat(3_999), marks: [ids[0]!], mock: true }
  })) as { number: string };
  return { receipt, shipment: shipped.event.id, recall: opened.number, ids };
}

/** Who is not signed in, and addresses. */
const SIGN_IN: Attack[] = [
  asNobody('sign-in: 16 MB of brackets', 'POST', '/api/v1/sign-in', () => '['.repeat(16 * MB)),
  asNobody(
    'sign-in page: 16 MB of a form',
    'POST',
    '/sign-in',
    () => `login=${'a'.repeat(16 * MB - 10)}`
  ),
  atOnce('sign-in: 250 at once', 250, (by, n) =>
    by.asNobody('POST', '/api/v1/sign-in', { login: `guess${n}`, password: 'a guess' })
  ),
  asNobody('an address of 15 kB', 'GET', `/${'a/'.repeat(7_500)}`),
  asNobody('odd escapes in an address', 'GET', '/track/%E0%A4%A/..%2f..%2f'),
  atOnce('approvals: 120 guesses at once', 120, (by) =>
    by.send('POST', '/api/v1/approvals', {
      ...{ login: 'marit', password: 'guess', document: 'ATT-X', reason: 'x' },
      faults: [{ code: 'mark.expired', message: 'x' }]
    })
  )
];

/** Bodies as large and odd as may be. */
const BODIES: Attack[] = [
  one('a receipt: 15 MB of brackets', 'POST', 'receipts', () => '['.repeat(15 * MB)),
  one('a receipt: a million unknown keys', 'POST', 'receipts', () => members(1_000_000)),
  one('a receipt: 19,000 unknown keys', 'POST', 'receipts', () => members(19_000)),
  one('a receipt: a text of 15 MB', 'POST', 'receipts', () => ({
    document: 'a'.repeat(15 * MB),
    lines: []
  })),
  one('a receipt: 20,000 lines', 'POST', 'receipts', () => ({
    ...{ document: 'ATT-X', supplier: 'NOBODY' },
    lines: times(20_000, (n) => ({
      product: `NONE-${n}`,
      place: `NO-${n}`,
      quantity: 'x',
      marks: [{ serial: 's' }]
    }))
  })),
  one('a check: 20,000 numbers twice', 'POST', 'checks/receipts', () => ({
    ...{ document: 'ATT-X', supplier: 'PELLWORM', lines: [line(0, 20_000)] }
  })),
  one('a move: 10,000 serials', 'POST', 'moves', () => ({
    ...{ document: 'ATT-M', kind: 'move' },
    lines: times(10_000, (n) => ({
      product: 'ATT-UNIT',
      serial: serial(10_000 + n),
      from: 'DN-BENCH',
      to: 'DN-DOCK'
    }))
  })),
  one('a draft of 15 MB', 'PUT', 'drafts/attack', () => ({ body: { text: 'a'.repeat(15 * MB) } })),
  one('EPCIS document of 15 MB', 'POST', 'epcis/capture', () => ({
    ...{ type: 'EPCISDocument', schemaVersion: '2.0', creationDate: '2026-01-01T00:00:00Z' },
    epcisBody: {
      eventList: times(60_000, (n) => ({
        type: 'ObjectEvent',
        eventID: `ni:${n}`,
        epcList: ['x'.repeat(150)]
      }))
    }
  }))
];

const EPCIS = 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld';
/** A document whose events have no ids: what tells one from the other is worked out of each. */
const epcisDocument = (events: number, serials: number) => ({
  '@context': EPCIS,
  ...{ type: 'EPCISDocument', schemaVersion: '2.0', creationDate: '2026-01-01T00:00:00Z' },
  epcisBody: {
    eventList: times(events, (n) => ({
      ...{ type: 'ObjectEvent', action: 'ADD', bizStep: 'commissioning' },
      ...{ eventTime: '2026-01-01T00:00:00Z', eventTimeZoneOffset: '+00:00' },
      epcList: times(serials, (m) => `https://id.gs1.org/01/04012345111118/21/ATT${n}-${m}`)
    }))
  }
});

/** Documents of other firms, as large as they are taken. */
const DOCUMENTS: Attack[] = [
  one('EPCIS: 20,000 events', 'POST', 'epcis/capture', () => epcisDocument(20_000, 1)),
  one('EPCIS: the same events again', 'POST', 'epcis/capture', () => epcisDocument(20_000, 1)),
  one('EPCIS: an event of 250,000 serials', 'POST', 'epcis/capture', () =>
    epcisDocument(1, 250_000)
  )
];

/** Files that are made to stop whoever reads them. */
const FILES: Attack[] = [
  one('a file: row two thousand million', 'POST', 'imports/products', farRow),
  one('a file: a cell of 190 MB', 'POST', 'imports/products', hugeCell),
  one('a file: 2.4 million lines', 'POST', 'imports/products', manyLines),
  atOnce('files: thirteen at once', 13, (by) =>
    by.send('POST', '/api/v1/imports/products', manyLines())
  ),
  one(
    'a picture of 15 MB of nothing',
    'PUT',
    'products/ATT-UNIT/picture',
    () => new Uint8Array(15 * MB)
  ),
  one('a file: 20,000 products', 'POST', 'imports/products', manyProducts)
];

/** Papers of thousands of rows. */
const papers = ({ receipt, shipment, recall, ids }: Prepared): Attack[] => [
  one('labels: 2,000, twice each', 'POST', 'labels', () => ({
    marks: ids.slice(0, 2_000),
    copies: 2
  })),
  one('goods received note of 10,000', 'GET', `events/${receipt}/goods-received-note`),
  one('delivery note of 10,000', 'GET', `events/${shipment}/delivery-note`),
  one('EPCIS of a shipment of 10,000', 'GET', `events/${shipment}/epcis`),
  one('recall file with words of thousands of letters', 'GET', `recalls/${recall}/file`),
  one('recall workbook', 'GET', `recalls/${recall}/file?format=xlsx`),
  atOnce('papers: forty at once', 40, (by) =>
    by.send('GET', `/api/v1/events/${receipt}/goods-received-note`)
  )
];

/** Tables and documents of everything. */
const EXPORTS: Attack[] = [
  one('products as XLSX', 'GET', 'exports/products?format=xlsx'),
  {
    name: 'trace of 20,000 as XLSX and EPCIS',
    run: async (by) => {
      const { set } = (await by.taken('POST', 'trace-roots', {
        by: 'document',
        document: 'ATT-S'
      })) as { set: number };
      const file = (format: string) =>
        by.send('GET', `/api/v1/trace-files/s${set}?direction=upstream&format=${format}`);
      return [await file('xlsx'), await file('epcis')];
    }
  },
  one('ledger as CSV', 'GET', 'exports/ledger?format=csv'),
  one('ledger as XLSX', 'GET', 'exports/ledger?format=xlsx'),
  one('ledger as EPCIS', 'GET', 'exports/ledger?as=epcis'),
  one('record sheet as XLSX', 'GET', 'exports/record-sheet?format=xlsx'),
  one('on hand as XLSX', 'GET', 'on-hand?format=xlsx'),
  one('on hand as PDF', 'GET', 'on-hand?format=pdf&product=ATT-UNIT'),
  one('value as XLSX', 'GET', 'value?format=xlsx')
];

/** Questions, and many at once. */
const QUESTIONS: Attack[] = [
  one(
    'EPCIS query that matches nothing',
    'GET',
    'epcis/events?MATCH_anyEPC=urn:epc:id:sgtin:0000000.000000.none&perPage=1000'
  ),
  one('EPCIS query of everything', 'GET', 'epcis/events?perPage=1000'),
  one('a search for %%%%', 'GET', `marks?q=${'%25'.repeat(60)}`),
  one('a page of all marks', 'GET', 'marks?product=ATT-UNIT&limit=1000'),
  one('the feed from its beginning', 'GET', 'feed?limit=1000'),
  atOnce('three hundred questions at once', 300, (by) => by.send('GET', '/api/v1/marks?q=ATT-1'))
];

/** Last, for it takes away what the others ask about. */
const SHIPMENT = one('a shipment: 10,000 serials', 'POST', 'shipments', () => ({
  ...{ document: 'ATT-S2', customer: 'ATT-CUS' },
  lines: [{ product: 'ATT-UNIT', marks: marks(A_BOOKING, A_BOOKING) }]
}));

export const attacks = (prepared: Prepared): Attack[] => [
  ...SIGN_IN,
  ...BODIES,
  ...DOCUMENTS,
  ...FILES,
  ...papers(prepared),
  ...EXPORTS,
  ...QUESTIONS,
  SHIPMENT
];
