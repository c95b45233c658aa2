import { describe, expect, it } from 'vitest';
import { WAYS, type MarkingPlan } from '../../core/catalogue/plan.ts';
import { faultsFirst, type Column } from './grid.ts';
import {
  announcedOpen,
  announcedRow,
  columnsFor,
  inUnit,
  lacksNumber,
  lineRequest,
  markedQuantity,
  mayComeLater,
  moreColumns,
  proposedRow,
  rowKind,
  splitEvenly,
  stillToMark,
  unexpectedNumbers
} from './line-rows.ts';
import { MOST_SHEET_ROWS, takePasted } from './paste-table.ts';
import { sheetLine as line } from './testing/sheet-line.ts';

const keys = (columns: readonly Column[]) => columns.map((column) => column.key);
const FACTS: MarkingPlan['facts'] = [
  {
    name: 'arrival temperature',
    kind: 'number',
    unit: '°C',
    least: '2',
    most: '8',
    choices: [],
    required: true
  }
];

describe('the rows of a sheet', () => {
  it('ask for what the plan asks, the needed first to be seen, the rest when it is wanted', () => {
    expect(keys(columnsFor(line('serial-in-lot'), 'receive'))).toEqual([
      'lot',
      'serial',
      'expires'
    ]);
    expect(keys(moreColumns(line('serial-in-lot'), 'receive'))).toEqual([
      'made',
      'retest',
      'supplierNumber'
    ]);
    expect(keys(columnsFor(line('serial-in-lot'), 'ship'))).toEqual(['serial']);
    expect(keys(columnsFor(line('none'), 'receive'))).toEqual(['quantity']);
    expect(
      columnsFor(line('lot', { facts: FACTS, expires: 'entered' }), 'receive').map((column) => [
        column.label,
        column.must
      ])
    ).toEqual([
      ['Lot', true],
      ['Quantity, each', true],
      ['Expires', true],
      ['Their number', false],
      ['Arrival temperature, °C', true]
    ]);
  });
  it('keep a quantity that waits for its lot, and pass over one that is only proposed', () => {
    const lots = line('lot');
    const rows = [{ lot: 'A', quantity: '4' }, { quantity: '6' }, proposedRow('10'), {}];
    expect(rows.map((row) => lacksNumber(row, lots, 'receive'))).toEqual([
      false,
      true,
      false,
      false
    ]);
    expect(lineRequest(rows, lots, 'receive')).toEqual({
      marks: [{ lot: 'A', quantity: '4' }, { quantity: '6' }],
      quantity: '10',
      rowOf: [0, 1]
    });
    expect(lacksNumber({ ...proposedRow('10'), quantity: '3' }, lots, 'receive')).toBe(true);
    expect(lacksNumber({ quantity: '3' }, line('none'), 'receive')).toBe(false);
  });
  it('are a quantity where the number is taken only at shipping, and numbers there or when they are given', () => {
    const late = line('serial', { asks: WAYS['only when it is shipped'] });
    expect([rowKind(late, 'receive'), rowKind(late, 'ship'), rowKind(late, 'identify')]).toEqual([
      'amount',
      'serial',
      'serial'
    ]);
    expect(
      mayComeLater(
        line('serial', { asks: WAYS['at every step, but it may come later'] }),
        'receive'
      )
    ).toBe(true);
    expect(mayComeLater(late, 'receive')).toBe(false);
  });
  it('count serials by rows and lots by quantity, exactly, in the unit they are counted in', () => {
    expect(
      markedQuantity([{ serial: 'A' }, { serial: ' ' }, { serial: 'B' }], line('serial'), 'receive')
    ).toBe('2');
    expect(
      markedQuantity(
        [
          { lot: 'A', quantity: '0.1' },
          { lot: 'B', quantity: '0.2' },
          { lot: 'C', quantity: 'x' }
        ],
        line('lot'),
        'receive'
      )
    ).toBe('0.3');
    expect(markedQuantity([{ lot: 'A', quantity: '1.5' }], line('lot'), 'receive', 'pack')).toBe(
      '150'
    );
    expect(stillToMark([{ lot: 'A', quantity: '12' }], line('lot'), 'receive')).toBe('0');
    expect(inUnit('250', line('lot'), 'pack')).toBe('2.5');
  });
  it('become a booking line that remembers which row each mark came from', () => {
    expect(
      lineRequest(
        [{ serial: '' }, { serial: ' A1 ', expires: '' }, {}, { serial: 'A2' }],
        line('serial'),
        'receive'
      )
    ).toEqual({ marks: [{ serial: 'A1' }, { serial: 'A2' }], quantity: '2', rowOf: [1, 3] });
    expect(lineRequest([{ quantity: '4' }], line('none'), 'receive')).toEqual({
      marks: [],
      quantity: '4',
      rowOf: [0]
    });
    expect(lineRequest([{}], line('lot'), 'ship')).toBeNull();
    expect(
      lineRequest(
        [{ lot: 'L', quantity: '2', 'fact:arrival temperature': ' 4.5 ' }],
        line('lot', { facts: FACTS }),
        'receive'
      )!.marks
    ).toEqual([{ lot: 'L', quantity: '2', facts: { 'arrival temperature': '4.5' } }]);
  });
  it('take in more than is numbered where numbers come later, never less', () => {
    const soon = line('serial', { asks: WAYS['at every step, but it may come later'] });
    expect(lineRequest([{ serial: 'A' }], soon, 'receive', { arrived: '8' })).toMatchObject({
      quantity: '8',
      marks: [{ serial: 'A' }]
    });
    expect(lineRequest([], soon, 'receive', { arrived: '8' })).toMatchObject({
      quantity: '8',
      marks: []
    });
    expect(
      lineRequest([{ serial: 'A' }, { serial: 'B' }], soon, 'receive', { arrived: '1' })!.quantity
    ).toBe('2');
  });
  it('with what is wrong come first, otherwise in their order', () => {
    const verdict = (tone: 'good' | 'stop' | 'note' | 'reason') => ({ tone, text: '' });
    expect(
      faultsFirst(
        [{ a: '0' }, { a: '1' }, { a: '2' }, { a: '3' }],
        new Map([
          [0, verdict('good')],
          [1, verdict('reason')],
          [3, verdict('stop')]
        ])
      ).map((row) => row.a)
    ).toEqual(['3', '1', '0', '2']);
  });
});

describe('numbers announced', () => {
  const announced = [
    {
      lot: 'L',
      serial: 'S1',
      quantity: null,
      expires: '2030-01-01',
      supplierNumber: null,
      arrived: false
    },
    { lot: null, serial: 'S2', quantity: null, expires: null, supplierNumber: 'T', arrived: true },
    { lot: null, serial: 'S3', quantity: null, expires: null, supplierNumber: null, arrived: false }
  ];
  it('are missing until they are on the sheet or came before', () =>
    expect(
      announcedOpen([{ serial: 's1' }], line('serial', {}, { announced })).map((one) => one.serial)
    ).toEqual(['S3']));
  it('tell what is on the sheet and was not announced, and nothing where nothing was', () => {
    expect(
      unexpectedNumbers(
        [{ serial: 's1' }, { serial: ' S9 ' }, {}, { serial: 'L' }],
        line('serial', {}, { announced }),
        'receive'
      )
    ).toEqual(['S9']);
    expect(unexpectedNumbers([{ serial: 'S9' }], line('serial'), 'receive')).toEqual([]);
  });
  it('fill a row with all that was announced', () =>
    expect(announcedRow(announced[0]!)).toEqual({ lot: 'L', serial: 'S1', expires: '2030-01-01' }));
});

describe('splitting a line over lots', () => {
  it.each([
    ['10', 3, 0, ['4', '3', '3']],
    ['10', 4, 1, ['2.5', '2.5', '2.5', '2.5']],
    ['1', 3, 2, ['0.34', '0.33', '0.33']],
    ['2', 3, 0, ['1', '1', '0']]
  ])('%s over %i with %i decimals adds up', (amount, parts, decimals, expected) =>
    expect(splitEvenly(amount, parts, decimals)).toEqual(expected)
  );
});

describe('a paste', () => {
  const columns = columnsFor(line('lot', { facts: FACTS }), 'receive');
  const rowsOf = (text: string, first = 0) => {
    const pasted = takePasted(text, columns, first);
    return pasted.ok ? pasted.rows : pasted.why;
  };
  it('of a column goes down, with any mixture of line ends', () =>
    expect(rowsOf('A1\r\nA2\nA3\r\u2028A4\n\n')).toEqual([
      { lot: 'A1' },
      { lot: 'A2' },
      { lot: 'A3' },
      { lot: 'A4' }
    ]));
  it('of a table goes across from the column in hand', () =>
    expect(rowsOf('5\t2027-03-12\n6\t13/03/2027', 1)).toEqual([
      { quantity: '5', expires: '2027-03-12' },
      { quantity: '6', expires: '2027-03-13' }
    ]));
  it('with headings goes where they say, and names what it passes over', () => {
    const pasted = takePasted(
      'Expiry date\tColour\tLot number\tQty\tArrival temperature\n12 Mar 2027\tred\tL1\t3\t4.5\n',
      columns,
      0
    );
    expect(pasted).toEqual({
      ok: true,
      passedOver: ['Colour'],
      rows: [{ expires: '2027-03-12', lot: 'L1', quantity: '3', 'fact:arrival temperature': '4.5' }]
    });
  });
  it('knows headings by one of them, so that none becomes a number, and opens hidden columns', () => {
    expect(rowsOf('Lot number\tColour of the lid\nL1\tred')).toEqual([{ lot: 'L1' }]);
    expect(rowsOf('Lot number')).toBe('Only headings were pasted. Copy the rows under them too.');
    const serials = line('serial');
    const shown = columnsFor(serials, 'receive'),
      hidden = moreColumns(serials, 'receive');
    expect(hidden.map((column) => column.key)).toContain('supplierNumber');
    const pasted = takePasted('Serial\tSupplier number\nS1\tT-9', shown, 0, hidden);
    expect(pasted).toEqual({
      ok: true,
      passedOver: [],
      rows: [{ serial: 'S1', supplierNumber: 'T-9' }]
    });
  });
  it('keeps what is no date for the verdict to name, and takes a spreadsheet’s quotes off', () =>
    expect(rowsOf('"say ""L1"""\t1\t310200')).toEqual([
      { lot: 'say "L1"', quantity: '1', expires: '310200' }
    ]));
  it('of more rows than a sheet holds takes nothing over and says so', () => {
    const many = (count: number) => Array.from({ length: count }, (_, n) => `A${n}`).join('\n');
    expect(rowsOf(many(MOST_SHEET_ROWS))).toHaveLength(MOST_SHEET_ROWS);
    expect(rowsOf(many(100_000))).toMatch(/^100,000 rows were pasted and 20,000 rows are the most/);
    expect(rowsOf('x'.repeat(20_000_001))).toMatch(/^Over 20 million characters/);
  });
  it('of nothing says so', () => expect(rowsOf(' \n \t ')).toMatch(/holds no text/));
});
