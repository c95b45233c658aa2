import { createRequire } from 'node:module';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { validEpcis } from './testing/epcis-schema.ts';
import { checkDigit } from '../gs1/check-digit.ts';
import { makeSscc } from '../gs1/sscc.ts';
import { epcOf, partnerUri, readIdentifier, ssccUri, type NamedMark } from './identifiers.ts';
import { readDocument } from './read.ts';
import { epcisDocument, offsetAt, toEpcis, type LedgerEvent } from './write.ts';

const BASE = 'https://id.example';
const read = (uri: string) => readIdentifier(uri, BASE, checkDigit);
const mark = (more: Partial<NamedMark> = {}): NamedMark => ({
  product: 'TN150',
  gtin: '09506000134352',
  kind: 'serial',
  number: 'TN-1',
  lot: null,
  unit: 'each',
  ...more
});

describe('the identifier of a mark', () => {
  it('is a GS1 Digital Link, as an independent library writes it (digital-link.js)', () => {
    const { DigitalLink } = createRequire(import.meta.url)('digital-link.js') as {
      DigitalLink: (options: object) => { toWebUriString: () => string };
    };
    for (const [kind, ai, number] of [
      ['serial', '21', 'TN-004417'],
      ['lot', '10', 'L/26(a)']
    ] as const) {
      const theirs = DigitalLink({
        domain: 'https://id.gs1.org',
        identifier: { '01': '09506000134352' },
        keyQualifiers: { [ai]: number }
      }).toWebUriString();
      expect(decodeURIComponent(epcOf(mark({ kind, number }), BASE))).toBe(
        decodeURIComponent(theirs)
      );
    }
  });
  it('is an address of our own where there is no GTIN, or the number fits no symbol', () => {
    expect(epcOf(mark({ gtin: null }), BASE)).toBe('https://id.example/product/TN150/serial/TN-1');
    expect(epcOf(mark({ number: 'a number longer than twenty' }), BASE)).toBe(
      'https://id.example/product/TN150/serial/a%20number%20longer%20than%20twenty'
    );
    expect(epcOf(mark({ gtin: null, kind: 'bulk', number: null }), BASE)).toBe(
      'https://id.example/product/TN150'
    );
    expect(epcOf(mark({ kind: 'bulk', number: null }), BASE)).toBe(
      'https://id.gs1.org/01/09506000134352'
    );
    expect(partnerUri({ code: 'A B', gln: null }, BASE)).toBe('https://id.example/partner/A%20B');
    expect(partnerUri({ code: 'X', gln: '9520600000017' }, BASE)).toBe(
      'https://id.gs1.org/417/9520600000017'
    );
  });
  it('is read back as what it was, whatever its number (property)', () => {
    const number = fc
      .string({
        unit: fc.constantFrom(...'!"%&\'()*+,-./0123456789:;<=>?ABCXYZ_abcxyz '),
        minLength: 1,
        maxLength: 60
      })
      .filter((text) => text.trim() === text && !/^\.{1,2}$/.test(text));
    fc.assert(
      fc.property(
        fc.constantFrom('lot' as const, 'serial' as const),
        number,
        fc.constantFrom('09506000134352', null),
        (kind, text, gtin) => {
          const back = read(epcOf(mark({ kind, number: text, gtin }), BASE));
          expect(back).toMatchObject({ is: 'mark', kind, number: text });
          expect(back.is === 'mark' && (back.gtin ?? back.product)).toBe(
            gtin !== null &&
              epcOf(mark({ kind, number: text, gtin }), BASE).startsWith('https://id.gs1.org')
              ? gtin
              : 'TN150'
          );
        }
      )
    );
  });
  // GS1 EPC Tag Data Standard, section 6: the URN of SGTIN 0614141.812345.6789 is GTIN
  // 80614141123458 with serial 6789 (recomputed from the standard's running example).
  it('is read from the URNs of the tag data standard', () => {
    expect(read('urn:epc:id:sgtin:0614141.812345.6789')).toEqual({
      is: 'mark',
      gtin: '80614141123458',
      product: null,
      kind: 'serial',
      number: '6789',
      lot: null
    });
    expect(read('urn:epc:class:lgtin:4012345.012345.998877')).toMatchObject({
      is: 'mark',
      kind: 'lot',
      number: '998877'
    });
    expect(read('urn:epc:idpat:sgtin:0614141.812345.*')).toMatchObject({
      is: 'mark',
      kind: 'bulk',
      gtin: '80614141123458'
    });
    expect(read('urn:epc:id:sscc:0614141.1234567890')).toEqual({
      is: 'unit',
      sscc: '106141412345678908'
    });
    expect(read(ssccUri(makeSscc('9520001', 7)))).toEqual({
      is: 'unit',
      sscc: makeSscc('9520001', 7)
    });
  });
  it('is unknown where it is none of these', () => {
    for (const uri of [
      'urn:epc:id:sgln:0614141.07346.1234',
      'urn:epc:id:sgtin:1.2.3',
      'https://example.com/about',
      `${BASE}/partner/X`,
      `${BASE}/product/TN150/colour/red`,
      'nonsense'
    ])
      expect(read(uri), uri).toEqual({ is: 'unknown' });
    expect(read('https://shop.example/some/path/01/9506000134352/10/A/21/B?17=301231')).toEqual({
      is: 'mark',
      gtin: '09506000134352',
      product: null,
      kind: 'serial',
      number: 'B',
      lot: 'A'
    });
  });
});

describe('the time of an event', () => {
  it('has the offset of its site, in summer and winter', () => {
    expect(offsetAt('2026-07-01T12:00:00Z', 'Europe/London')).toBe('+01:00');
    expect(offsetAt('2026-12-01T12:00:00Z', 'Europe/London')).toBe('+00:00');
    expect(offsetAt('2026-12-01T12:00:00Z', 'Asia/Kolkata')).toBe('+05:30');
    expect(offsetAt('2026-12-01T12:00:00Z', 'America/St_Johns')).toBe('-03:30');
  });
});

const event = (more: Partial<LedgerEvent> = {}): LedgerEvent => ({
  id: 7,
  kind: 'receive',
  document: 'PO-1',
  at: '2026-11-01T10:00:00.000Z',
  bookedAt: '2026-11-01T10:00:01.000Z',
  zone: 'Europe/London',
  reason: null,
  order: null,
  partner: null,
  lines: [],
  transformations: [],
  packings: [],
  fittings: [],
  units: [],
  changed: [],
  reverses: null,
  paper: more.document ?? 'PO-1',
  earlier: [],
  tookBack: { transformations: [], units: [] },
  unitPlaces: new Map(),
  ...more
});
const MARKS = new Map<number, NamedMark>([
  [1, mark()],
  [2, mark({ product: 'KG', gtin: null, kind: 'lot', number: 'L1', unit: 'kg' })],
  [3, mark({ product: 'BKL', gtin: null, kind: 'bulk', number: null })],
  [4, mark({ number: 'TN-2' })]
]);
const KINDS = [
  'receive',
  'put away',
  'move',
  'transfer',
  'ship',
  'count',
  'gain',
  'loss',
  'scrap',
  'hold',
  'release',
  'reject',
  'return',
  'amendment'
];

describe('an event of the ledger as EPCIS', () => {
  it('names a moved mark once, at the place it came to; a quantity in the code of its unit', () => {
    const [moved] = toEpcis(
      event({
        kind: 'move',
        lines: [
          { mark: 2, place: 'A1', quantity: '-2.5' },
          { mark: 2, place: 'B2', quantity: '2.5' }
        ]
      }),
      MARKS,
      BASE
    );
    expect(moved).toMatchObject({
      bizStep: 'storing',
      readPoint: { id: `${BASE}/place/B2` },
      quantityList: [{ epcClass: `${BASE}/product/KG/lot/L1`, quantity: 2.5, uom: 'KGM' }]
    });
    expect(moved).not.toHaveProperty('epcList');
  });
  // Source: EPCIS 2.0, AssociationEvent; Core Business Vocabulary 2.0, installing and removing.
  it('tells what came out of a unit and what went in as associations with it', () => {
    const swap = event({
      kind: 'swap',
      lines: [
        { mark: 4, place: 'A1', quantity: '1' },
        { mark: 2, place: 'A1', quantity: '-0.25' }
      ],
      fittings: [
        { host: 1, mark: 4, quantity: '1', put: false },
        { host: 1, mark: 2, quantity: '0.25', put: true }
      ]
    });
    const parentID = epcOf(MARKS.get(1)!, BASE);
    expect(toEpcis(swap, MARKS, BASE)).toMatchObject([
      {
        ...{ type: 'AssociationEvent', action: 'DELETE', bizStep: 'removing', parentID },
        childEPCs: [epcOf(MARKS.get(4)!, BASE)]
      },
      {
        ...{ type: 'AssociationEvent', action: 'ADD', bizStep: 'installing', parentID },
        childQuantityList: [{ quantity: 0.25, uom: 'KGM' }]
      }
    ]);
  });
  it('says from whom and to whom, and under which papers', () => {
    const partner = { code: 'SUP', name: 'Supplier', gln: null };
    expect(
      toEpcis(
        event({ partner, order: 'PO-1', lines: [{ mark: 1, place: 'DOCK', quantity: '1' }] }),
        MARKS,
        BASE
      )[0]
    ).toMatchObject({
      sourceList: [{ type: 'possessing_party', source: `${BASE}/partner/SUP` }],
      bizTransactionList: [{ type: 'po', bizTransaction: `${BASE}/document/PO-1` }]
    });
    expect(
      toEpcis(
        event({
          kind: 'ship',
          partner,
          document: 'DN-4',
          units: [makeSscc('9520001', 1)],
          lines: [{ mark: 1, place: 'DISP', quantity: '-1' }]
        }),
        MARKS,
        BASE
      )[0]
    ).toMatchObject({
      destinationList: [{ destination: `${BASE}/partner/SUP` }],
      bizTransactionList: [{ type: 'desadv' }],
      epcList: [expect.stringContaining('/21/TN-1'), ssccUri(makeSscc('9520001', 1))]
    });
  });
  it('is nothing for a step on the floor, for a reversal of nothing, and where nothing is named', () => {
    for (const empty of [
      event({ kind: 'station' }),
      event({ kind: 'reversal' }),
      event({ kind: 'hold' })
    ])
      expect(toEpcis(empty, MARKS, BASE)).toEqual([]);
  });
  it('is valid by the standard’s schema and read back by our own reader, whatever it names (property)', () => {
    const line = fc.record({
      mark: fc.constantFrom(1, 2, 3, 4),
      place: fc.constantFrom('A1', 'B 2'),
      quantity: fc.constantFrom('1', '0.25', '12', '-3')
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS),
        fc.array(line, { maxLength: 6 }),
        fc.array(fc.constantFrom(1, 2, 3), { maxLength: 2 }),
        (kind, lines, changed) => {
          const written = toEpcis(event({ kind, lines, changed }), MARKS, BASE);
          const document = epcisDocument(written, '2026-11-24T00:00:00Z');
          expect(validEpcis(document)).toEqual([]);
          const reading = readDocument(JSON.parse(JSON.stringify(document)));
          expect(reading.ok && reading.events.map((one) => one.bizStep)).toEqual(
            written.map((one) => one.bizStep)
          );
        }
      ),
      { numRuns: 200 }
    );
  });
  it('has what went in and came out of every transformation, also where marks have no number', () => {
    const [built] = toEpcis(
      event({
        kind: 'build',
        order: 'WO-1',
        document: 'WO-1',
        lines: [{ mark: 1, place: 'L2', quantity: '1' }],
        transformations: [
          {
            id: 5,
            inputs: [
              { mark: 2, quantity: '0.5' },
              { mark: 3, quantity: '2' }
            ],
            outputs: [{ mark: 1, quantity: '1' }]
          }
        ]
      }),
      MARKS,
      BASE
    );
    expect(built).toMatchObject({
      type: 'TransformationEvent',
      transformationID: `${BASE}/transformation/5`,
      inputQuantityList: [
        { quantity: 0.5, uom: 'KGM' },
        { epcClass: `${BASE}/product/BKL`, quantity: 2 }
      ],
      outputEPCList: [expect.stringContaining('TN-1')],
      bizTransactionList: [{ type: 'prodorder' }]
    });
    expect(validEpcis(epcisDocument([built!], '2026-11-24T00:00:00Z'))).toEqual([]);
  });
});

describe('a document from outside', () => {
  const good = {
    '@context': [
      'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld',
      { ex: 'https://ex.example/' }
    ],
    type: 'EPCISDocument',
    schemaVersion: '2.0',
    epcisBody: {
      eventList: [
        {
          type: 'ObjectEvent',
          eventTime: '2026-01-01T00:00:00+02:00',
          eventTimeZoneOffset: '+02:00',
          action: 'ADD',
          bizStep: 'https://ref.gs1.org/cbv/BizStep-commissioning',
          epcList: ['urn:epc:id:sgtin:0614141.812345.6789'],
          'ex:colour': 'red'
        }
      ]
    }
  };
  it('is read with its extensions, its step as a word and its time as an instant', () => {
    expect(readDocument(good)).toMatchObject({
      ok: true,
      context: { ex: 'https://ex.example/' },
      events: [
        {
          bizStep: 'commissioning',
          at: '2025-12-31T22:00:00.000Z',
          epcs: [{ role: 'epc', epc: 'urn:epc:id:sgtin:0614141.812345.6789' }]
        }
      ]
    });
  });
  it('may be a list, a bare event, or the answer to a query', () => {
    const [one] = good.epcisBody.eventList;
    expect(readDocument([one]).ok).toBe(true);
    expect(readDocument({ ...one, '@context': good['@context'] }).ok).toBe(true);
    expect(
      readDocument({
        '@context': good['@context'],
        type: 'EPCISQueryDocument',
        epcisBody: { queryResults: { resultsBody: { eventList: [one] } } }
      }).ok
    ).toBe(true);
  });
  it('never breaks the reader, whatever is sent (property)', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const reading = readDocument(value);
        expect(reading.ok || reading.faults.length > 0).toBe(true);
      })
    );
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.constantFrom(
            'type',
            'eventTime',
            'eventTimeZoneOffset',
            'action',
            'epcList',
            'quantityList',
            'parentID',
            'readPoint',
            'bizStep'
          ),
          fc.jsonValue()
        ),
        (one) => {
          const reading = readDocument([one]);
          expect(reading.ok || reading.faults.every((fault) => fault.message !== '')).toBe(true);
        }
      )
    );
  });
  it('of too many events is refused before they are looked at', () => {
    expect(readDocument(Array.from({ length: 20_001 }, () => ({})))).toMatchObject({
      ok: false,
      faults: [{ message: expect.stringContaining('20000 are the most') }]
    });
  });
});

describe('what the store tells', () => {
  const marks = new Map([
    [1, mark()],
    [2, mark({ number: 'TN-2' })],
    [3, mark({ kind: 'lot', number: 'L-1' })]
  ]);
  const told = (more: Partial<LedgerEvent>) => {
    const events = toEpcis(event(more), marks, BASE);
    expect(validEpcis(epcisDocument(events, '2026-11-29T00:00:00Z'))).toEqual([]);
    return events.map(({ bizStep, disposition, action, readPoint, epcList, quantityList }) => ({
      bizStep,
      disposition,
      action,
      place: (readPoint as { id: string }).id.split('/').at(-1),
      goods: [
        ...((epcList as string[] | undefined) ?? []),
        ...((quantityList as { epcClass: string }[] | undefined) ?? []).map((one) => one.epcClass)
      ].map((uri) => uri.split('/').at(-1))
    }));
  };

  it('of a count is what was found and what was missed, apart; a serial found elsewhere once', () => {
    const lines = [
      { mark: 1, place: 'A', quantity: '-1' },
      { mark: 1, place: 'B', quantity: '1' },
      { mark: 2, place: 'B', quantity: '-1' },
      { mark: 3, place: 'B', quantity: '4' }
    ];
    expect(told({ kind: 'count', lines })).toEqual([
      expect.objectContaining({
        bizStep: 'cycle_counting',
        disposition: undefined,
        place: 'B',
        goods: ['TN-1', 'L-1']
      }),
      expect.objectContaining({ disposition: 'unknown', place: 'B', goods: ['TN-2'] })
    ]);
  });

  it('of a transfer is where it leaves and where it arrives, and never its way', () => {
    const leaves = [
      { mark: 1, place: 'A', quantity: '-1' },
      { mark: 1, place: 'WAY TR-1', quantity: '1' }
    ];
    const arrives = [
      { mark: 1, place: 'WAY TR-1', quantity: '-1' },
      { mark: 1, place: 'FAR', quantity: '1' }
    ];
    expect(told({ kind: 'transfer', lines: leaves })).toMatchObject([
      { bizStep: 'transporting', disposition: 'in_transit', place: 'A' }
    ]);
    expect(told({ kind: 'transfer', lines: arrives })).toMatchObject([
      { bizStep: 'transporting', disposition: 'in_progress', place: 'FAR' }
    ]);
  });

  it('of opening stock is that it was commissioned, where it lies', () => {
    const lines = [{ mark: 3, place: 'A', quantity: '7' }];
    expect(told({ kind: 'opening', lines })).toMatchObject([
      { bizStep: 'commissioning', disposition: 'active', action: 'ADD', place: 'A', goods: ['L-1'] }
    ]);
  });
});
