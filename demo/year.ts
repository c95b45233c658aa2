import { daysLater } from '../src/lib/core/calendar/day.ts';
import { amend } from '../src/lib/server/stock/kinds.ts';
import { build } from '../src/lib/server/making/kinds.ts';
import { correct } from '../src/lib/server/stock/kinds.ts';
import { quality } from '../src/lib/server/quality/kinds.ts';
import { receive } from '../src/lib/server/receiving/kinds.ts';
import { ship } from '../src/lib/server/shipping/kinds.ts';
import type { Desk, OrderedLine } from './desk.ts';
import { StoreRoom } from './store-room.ts';

const MONTHS = 11;
/**
 * The bobbin lot that absorbs moisture: received in the fifth month of the year, held three weeks
 * ago.
 */
const BAD_BOBBIN = 'BOB-2511';
const serials = (prefix: string, from: number, count: number, width = 5) =>
  Array.from({ length: count }, (_, i) => `${prefix}${String(from + i).padStart(width, '0')}`);

/**
 * Eleven months of receipts, builds and shipments, the troubled bobbin lot, and what is open today.
 * @returns the last count used of each numbering scheme
 */
export async function bookYear(desk: Desk): Promise<Record<string, number>> {
  const room = new StoreRoom();
  const next = {
    po: 2101,
    wo: 801,
    so: 3301,
    head: 88100,
    cylinder: 4100,
    inf: 300,
    tn: 4300,
    tx: 2700,
    kit: 101
  };
  const po = () => `PO-${next.po++}`;

  async function receipt(
    daysAgo: number,
    supplier: string,
    lines: {
      product: string;
      place: string;
      quantity: number;
      marks?: {
        lot?: string;
        serial?: string;
        quantity?: string;
        expires?: string;
        supplierNumber?: string;
        facts?: Record<string, string>;
      }[];
    }[],
    open: Record<string, number> = {}
  ): Promise<void> {
    const number = po();
    await desk.order(
      'purchase',
      number,
      { placed: daysAgo + 12, due: daysAgo },
      supplier,
      lines.map((line) => [line.product, line.quantity + (open[line.product] ?? 0)])
    );
    await desk.book(receive, 'ines', daysAgo, '08:40', {
      document: number,
      reference: `DN ${55000 + next.po}`,
      supplier,
      lines: lines.map((line) => ({ ...line, quantity: String(line.quantity) }))
    });
    for (const line of lines) {
      for (const mark of line.marks ?? [{}])
        room.put({
          product: line.product,
          lot: mark.lot,
          serial: mark.serial,
          left: mark.serial ? 1 : Number(mark.quantity ?? line.quantity),
          expires: mark.expires
        });
    }
  }
  const lot = (
    number: string,
    quantity: number,
    more: { expires?: string; supplierNumber?: string; facts?: Record<string, string> } = {}
  ) => [{ lot: number, quantity: String(quantity), ...more }];

  /** One batch: outputs in one lot, components drawn for the whole of it. */
  async function batch(
    daysAgo: number,
    product: string,
    number: string,
    quantity: number,
    place: string,
    per: [string, number][]
  ): Promise<void> {
    const document = `WO-${next.wo++}`;
    await desk.order('work', document, { placed: daysAgo + 4, due: daysAgo }, null, [
      [product, quantity]
    ]);
    const inputs = per.flatMap(([component, each]) =>
      room.take(component, each * quantity, desk.day(daysAgo))
    );
    await desk.book(build, 'tomas', daysAgo, '10:15', {
      document,
      place,
      groups: [{ outputs: [{ product, lot: number, quantity: String(quantity) }], inputs }]
    });
    room.put({ product, lot: number, left: quantity });
  }

  /** Unit by unit: every finished serial knows its own components. */
  async function units(
    daysAgo: number,
    product: string,
    numbers: string[],
    place: string,
    per: [string, number][],
    planned = numbers.length
  ): Promise<void> {
    const document = `WO-${next.wo++}`;
    await desk.order(
      'work',
      document,
      { placed: daysAgo + 4, due: planned > numbers.length ? -2 : daysAgo },
      null,
      [[product, planned]]
    );
    if (product === 'TN150' && daysAgo < 60) await desk.name(document, numbers);
    const groups = numbers.map((serial) => ({
      outputs: [{ product, serial, quantity: '1' }],
      inputs: per.flatMap(([component, each]) => room.take(component, each, desk.day(daysAgo)))
    }));
    await desk.book(build, 'tomas', daysAgo, '13:30', { document, place, groups });
    for (const serial of numbers) room.put({ product, serial, left: 1 });
  }

  async function sale(daysAgo: number, customer: string, lines: [string, number][]): Promise<void> {
    const document = `SO-${next.so++}`;
    await desk.order('sales', document, { placed: daysAgo + 9, due: daysAgo }, customer, lines);
    await desk.book(ship, 'priya', daysAgo, '15:10', {
      document,
      reference: `Carrier ${70000 + next.so}`,
      customer,
      lines: lines.map(([product, quantity]) => ({
        product,
        marks: room
          .take(product, quantity, desk.day(daysAgo))
          .map(({ lot: ofLot, serial, quantity: amount }) =>
            serial ? { serial } : { lot: ofLot, quantity: amount }
          )
      }))
    });
  }

  const takeNumbers = (
    key: 'head' | 'cylinder' | 'inf' | 'tn' | 'tx',
    prefix: string,
    count: number,
    width?: number
  ) => {
    const numbers = serials(prefix, next[key], count, width);
    next[key] += count;
    return numbers;
  };
  const rollFacts = (month: number, side: string) => ({
    'certificate number': `MC-${7100 + month}${side}`,
    'roll width': String(1495 + month)
  });
  const bobbins: Record<number, string> = { 11: 'BOB-2497', 7: BAD_BOBBIN, 2: 'BOB-2533' };
  const customers = ['NORTHQUAY', 'SKARROW', 'PILOTS', 'MARROW', 'GREYWATER'];

  for (let month = MONTHS; month >= 1; month--) {
    const base = month * 30;
    const day = (offset: number) => desk.day(base - offset);
    const roll = `F-07${String(71 - month).padStart(2, '0')}`;
    await receipt(base, 'MARROWBY', [
      {
        product: 'FAB-210',
        place: 'QW-A1',
        quantity: 42,
        marks: [
          {
            lot: `${roll}-A`,
            quantity: '24',
            supplierNumber: `ROLL ${9000 + month}A`,
            facts: rollFacts(month, 'A')
          },
          {
            lot: `${roll}-B`,
            quantity: '18',
            supplierNumber: `ROLL ${9000 + month}B`,
            facts: rollFacts(month, 'B'),
            ...(month === 3 ? { expires: daysLater(day(0), 365) } : {})
          }
        ]
      },
      { product: 'WEB-40', place: 'QW-A1', quantity: 60, marks: lot(`W-${340 - month}`, 60) }
    ]);
    const cylinders = takeNumbers('cylinder', 'C33-', 18);
    await receipt(base - 2, 'GANNET', [
      {
        product: 'CYL-33',
        place: 'QW-B2',
        quantity: 18,
        marks: cylinders.map((serial) => ({
          lot: `GC-${600 - month}`,
          serial,
          expires: daysLater(day(2), 3652),
          facts: {
            'gross weight': String(132 + (Number(serial.slice(-1)) % 4)),
            'test date': day(20)
          }
        }))
      }
    ]);
    // A roll came in with an expiry, which fabric has none of here: put right the next day, the old
    // value kept.
    if (month === 3)
      await desk.book(amend, 'marit', base - 1, '09:20', {
        document: 'AM-4',
        reason: 'Expiry read off the label of the wrapping film, not of the fabric.',
        lines: [{ product: 'FAB-210', lot: `${roll}-B`, to: { expires: null } }]
      });
    await receipt(base - 3, 'PELLWORM', [
      {
        product: 'HEAD-A',
        place: 'QW-B2',
        quantity: 11,
        marks: takeNumbers('head', 'PD-', 11).map((serial) => ({ serial }))
      }
    ]);
    const bobbin = bobbins[month];
    const bobbinCount = bobbin === BAD_BOBBIN ? 130 : bobbin === 'BOB-2497' ? 70 : 120;
    if (bobbin)
      await receipt(base - 3, 'SALTMERE', [
        {
          product: 'BOB-S',
          place: 'QW-C1',
          quantity: bobbinCount,
          marks: lot(bobbin, bobbinCount, {
            expires: daysLater(day(3), 1096),
            supplierNumber: `SM/${bobbin.slice(4)}`
          })
        },
        { product: 'TUBE', place: 'QW-C1', quantity: 60, marks: lot(`T-${90 - month}`, 60) },
        { product: 'BKL', place: 'QW-C1', quantity: 70 }
      ]);
    const glue = { 11: 4, 9: 4, 6: 6.5, 2: 6 }[month]; // that of month 6 expires a week from today
    if (glue)
      await receipt(base - 4, 'TALLOW', [
        {
          product: 'GLU-2',
          place: 'QW-COOL',
          quantity: glue,
          marks: lot(`TF-${1190 - month}`, glue, {
            expires: daysLater(day(4), 183),
            facts: { 'arrival temperature': String(4 + (month % 3)) }
          })
        }
      ]);
    await batch(base - 6, 'PNL', `PNL-${160 - month}`, 12, 'QW-L1', [['FAB-210', 1.8]]);
    await batch(base - 8, 'BLD', `BLD-${260 - month}`, 10, 'QW-L1', [
      ['PNL', 1],
      ['GLU-2', 0.12],
      ['TUBE', 1]
    ]);
    // Three weeks ago quality finds moisture in the bobbins and holds what is left of the lot.
    if (month === 1) {
      await desk.book(quality, 'marit', 21, '09:05', {
        document: 'H-31',
        kind: 'hold',
        reason: 'Bobbins swollen in the packet: moisture. Stopped until the supplier answers.',
        marks: [{ product: 'BOB-S', lot: BAD_BOBBIN }]
      });
      room.block(BAD_BOBBIN);
    }
    await units(base - 10, 'INF', takeNumbers('inf', 'INF-', 10), 'QW-L2', [
      ['HEAD-A', 1],
      ['CYL-33', 1],
      ['BOB-S', 1]
    ]);
    await units(base - 14, 'TN150', takeNumbers('tn', 'TN-', 6, 6), 'QW-L2', [
      ['BLD', 1],
      ['INF', 1],
      ['WEB-40', 2.4],
      ['BKL', 1]
    ]);
    if (month % 2 === 0)
      await units(base - 15, 'TN275', takeNumbers('tx', 'TX-', 2, 6), 'QW-L2', [
        ['BLD', 1],
        ['INF', 2],
        ['WEB-40', 3.1],
        ['BKL', 2]
      ]);
    if (month % 2 === 1)
      await batch(base - 16, 'RK-1', `RK1-${next.kit++}`, 8, 'QW-L2', [
        ['CYL-33', 1],
        ['BOB-S', 1]
      ]);
    if (month % 4 === 0)
      await batch(base - 17, 'RK-6', `RK6-${next.kit++}`, 1, 'QW-L2', [
        ['CYL-33', 6],
        ['BOB-S', 6]
      ]);
    await sale(base - 20, customers[month % 5]!, [['TN150', 4]]);
    if (month % 2 === 1)
      await sale(base - 22, customers[(month + 2) % 5]!, [
        ['TN150', 1],
        ['RK-1', 5]
      ]);
    if (month % 4 === 2) await sale(base - 24, customers[(month + 3) % 5]!, [['TN275', 2]]);
  }
  await desk.book(correct, 'marit', 6, '16:45', {
    document: 'CNT-12',
    kind: 'loss',
    reason: 'Counted 2 short at the monthly count of rack C1.',
    lines: [{ product: 'TUBE', lot: 'T-88', place: 'QW-C1', quantity: '2' }]
  });
  await desk.book(correct, 'marit', 5, '11:20', {
    document: 'SCR-7',
    kind: 'scrap',
    reason: 'Weld seam open at the leak test.',
    lines: [{ product: 'BLD', lot: 'BLD-259', place: 'QW-L1', quantity: '1' }]
  });

  await openWork();
  return { 'TERN-150': next.tn - 1, INFLATOR: next.inf - 1 };

  /** What waits today. */
  async function openWork(): Promise<void> {
    const open = (supplier: string, due: number, lines: OrderedLine[]) =>
      desk.order('purchase', po(), { placed: 10, due }, supplier, lines);
    await open('PELLWORM', 0, [['HEAD-A', 8]]);
    // Its numbers were announced ahead: they are ticked off as they are scanned.
    await open('GANNET', 2, [
      [
        'CYL-33',
        24,
        {
          announced: takeNumbers('cylinder', 'C33-', 24).map((serial) => ({
            lot: 'GC-600',
            serial,
            expires: daysLater(desk.day(5), 3652)
          }))
        }
      ]
    ]);
    await open('TALLOW', -1, [['GLU-2', 18]]);
    await open('SALTMERE', -3, [
      ['BOB-S', 2, { unit: 'pack' }],
      ['TUBE', 120],
      ['BKL', 12]
    ]);
    await receipt(
      1,
      'MARROWBY',
      [
        {
          product: 'FAB-210',
          place: 'QW-DOCK',
          quantity: 24,
          marks: lot('F-0771-A', 24, { supplierNumber: 'ROLL 9101A', facts: rollFacts(0, 'A') })
        }
      ],
      { 'FAB-210': 18 }
    );
    // Six firing heads for the service bench came without their list of serials: two could be read,
    // four still owe theirs.
    await receipt(1, 'PELLWORM', [
      {
        product: 'HEAD-A',
        place: 'DN-DOCK',
        quantity: 6,
        marks: takeNumbers('head', 'PD-', 2).map((serial) => ({ serial }))
      }
    ]);
    const jackets = `WO-${next.wo++}`;
    await desk.order('work', jackets, { placed: 3, due: 0 }, null, [['TN150', 4]]);
    await desk.name(jackets, takeNumbers('tn', 'TN-', 4, 6));
    await desk.order('work', `WO-${next.wo++}`, { placed: 3, due: -1 }, null, [['PNL', 12]]);
    await units(
      0,
      'INF',
      takeNumbers('inf', 'INF-', 3),
      'QW-L2',
      [
        ['HEAD-A', 1],
        ['CYL-33', 1],
        ['BOB-S', 1]
      ],
      8
    );
    await desk.order('sales', `SO-${next.so++}`, { placed: 5, due: 0 }, 'PILOTS', [['TN150', 3]]);
    await desk.order('sales', `SO-${next.so++}`, { placed: 4, due: 1 }, 'SKARROW', [
      ['TN150', 2],
      ['RK-1', 4]
    ]);
    await desk.order('sales', `SO-${next.so++}`, { placed: 2, due: -4 }, 'GREYWATER', [
      ['TN275', 2]
    ]);
  }
}
