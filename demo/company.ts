import type { BillPart } from '../src/lib/core/catalogue/bill.ts';
// Brackwater Safety: an invented maker of inflatable lifejackets, with invented suppliers,
// customers and people.
import type { Segment } from '../src/lib/core/numbers/scheme.ts';
import { checkDigit } from '../src/lib/core/gs1/check-digit.ts';
import {
  plainPlan,
  WAYS,
  type FactAsked,
  type MarkingPlan
} from '../src/lib/core/catalogue/plan.ts';
import type { Role } from '../src/lib/core/people/rights.ts';

export const SITES = [
  { code: 'QW', name: 'Quay Works' },
  { code: 'DN', name: 'Depot North' },
  { code: 'SV', name: 'Slipway Van' }
];

export const PLACES = [
  { code: 'QW-DOCK', name: 'dock 1', kind: 'dock', site: 'QW' },
  { code: 'QW-A1', name: 'rack A1', kind: 'rack', site: 'QW' },
  { code: 'QW-B2', name: 'rack B2', kind: 'rack', site: 'QW' },
  { code: 'QW-C1', name: 'rack C1', kind: 'rack', site: 'QW' },
  { code: 'QW-COOL', name: 'cool store', kind: 'bin', site: 'QW' },
  { code: 'QW-L1', name: 'line 1, welding', kind: 'line', site: 'QW' },
  { code: 'QW-L2', name: 'line 2, assembly', kind: 'line', site: 'QW' },
  { code: 'QW-QUAR', name: 'quarantine', kind: 'quarantine', site: 'QW' },
  { code: 'QW-DISP', name: 'dispatch', kind: 'dispatch', site: 'QW' },
  { code: 'DN-DOCK', name: 'dock', kind: 'dock', site: 'DN' },
  { code: 'DN-BENCH', name: 'service bench', kind: 'line', site: 'DN' },
  { code: 'SV-BOX', name: 'spares box', kind: 'bin', site: 'SV' }
] as const;

export const PARTNERS = [
  { code: 'MARROWBY', name: 'Marrowby Loom Co-operative', supplier: true },
  { code: 'GANNET', name: 'Gannet Gas & Cylinder', supplier: true },
  { code: 'SALTMERE', name: 'Saltmere Mouldings', supplier: true },
  { code: 'PELLWORM', name: 'Pellworm Devices', supplier: true, language: 'de' },
  { code: 'TALLOW', name: 'Tallow & Finch Adhesives', supplier: true },
  {
    code: 'NORTHQUAY',
    name: 'Northquay Chandlery',
    customer: true,
    address: '2 Tarred Rope Lane\nNorthquay',
    contact: 'Isolde Framlin, goods in, isolde@northquay.example'
  },
  {
    code: 'SKARROW',
    name: 'Skarrow Ferries',
    customer: true,
    address: 'Ferry Stage 4\nSkarrow',
    contact: 'Bram Oddsson, safety officer, 01632 960 114',
    language: 'de'
  },
  {
    code: 'PILOTS',
    name: 'Harbour Pilots’ Mutual',
    customer: true,
    address: 'Pilot House, Mole Road\nQuay Town',
    contact: 'Stores, stores@pilots.example'
  },
  {
    code: 'MARROW',
    name: 'Isle of Marrow Lifeboat Friends',
    customer: true,
    address: 'The Slip\nIsle of Marrow',
    contact: 'Thora Penhallick, coxswain'
  },
  { code: 'GREYWATER', name: 'Greywater Charter', customer: true, language: 'fr' }
] as const;

export const SCHEMES: {
  code: string;
  name: string;
  reset: 'never' | 'year';
  segments: Segment[];
}[] = [
  {
    code: 'TERN-150',
    name: 'jackets Tern 150',
    reset: 'never',
    segments: [
      { kind: 'text', text: 'TN-' },
      { kind: 'counter', width: 6, letters: false }
    ]
  },
  {
    code: 'INFLATOR',
    name: 'inflator modules',
    reset: 'never',
    segments: [
      { kind: 'text', text: 'INF-' },
      { kind: 'counter', width: 5, letters: false }
    ]
  },
  {
    code: 'BATCH',
    name: 'batches of the floor',
    reset: 'year',
    segments: [
      { kind: 'product' },
      { kind: 'text', text: '-' },
      { kind: 'year', digits: 2 },
      { kind: 'week' },
      { kind: 'text', text: '-' },
      { kind: 'counter', width: 3, letters: false },
      { kind: 'check', method: 'mod37-36' }
    ]
  }
];

const fact = (name: string, more: Partial<FactAsked> = {}): FactAsked => ({
  name,
  kind: 'text',
  unit: '',
  least: null,
  most: null,
  choices: [],
  required: true,
  ...more
});
const answers = plainPlan('lot').answers;

/** How the company marks what needs more than a number. */
export const PLANS: { code: string; name: string; plan: MarkingPlan }[] = [
  {
    code: 'ROLL',
    name: 'fabric by the roll',
    plan: {
      ...plainPlan('lot'),
      retest: 'not kept',
      facts: [
        fact('certificate number'),
        fact('roll width', { kind: 'number', unit: 'mm', least: '1480', most: '1520' })
      ],
      answers: { ...answers, 'off limits': 'reason' }
    }
  },
  {
    code: 'COLD',
    name: 'adhesive, kept cool',
    plan: {
      ...plainPlan('lot', { shelfLifeDays: 183 }),
      retest: 'not kept',
      facts: [fact('arrival temperature', { kind: 'number', unit: '°C', least: '2', most: '8' })],
      answers: { ...answers, 'off limits': 'reason' }
    }
  },
  {
    code: 'GAS',
    name: 'gas cylinders, weighed and tested',
    plan: {
      ...plainPlan('serial-in-lot', { shelfLifeDays: 3652 }),
      retest: 'not kept',
      facts: [
        fact('gross weight', { kind: 'number', unit: 'g', least: '128', most: '138' }),
        fact('test date', { kind: 'date', required: false })
      ]
    }
  },
  {
    code: 'DEVICE',
    name: 'devices with the maker’s serial',
    plan: {
      ...plainPlan('serial', { warrantyMonths: 24 }),
      asks: WAYS['at every step, but it may come later'],
      expires: 'not kept',
      made: 'not kept',
      retest: 'not kept'
    }
  },
  {
    code: 'KIT',
    name: 'kits, as good as their first part',
    plan: { ...plainPlan('lot'), expires: 'components', retest: 'not kept', lotScheme: 'BATCH' }
  }
];

/** GTINs of the range GS1 keeps for examples, prefix 952. */
const gtin = (item: number): string => {
  const digits = `0952${String(100_000 + item).padStart(9, '0')}`;
  return digits + checkDigit(digits);
};

interface DemoProduct {
  plan?: string;
  gtin?: string;
  grossWeightKg?: string;
  lengthCm?: string;
  widthCm?: string;
  heightCm?: string;
  overReceiptPercent?: string;
  units?: { name: string; holds: string; gtin?: string }[];
  code: string;
  name: string;
  unit: string;
  decimals?: number;
  made?: boolean;
  marking?: 'none' | 'lot' | 'serial' | 'serial-in-lot';
  shelfLifeDays?: number;
  warrantyMonths?: number;
  netWeightKg?: string;
  components?: [string, string, Partial<BillPart>?][];
  lotScheme?: string;
  serialScheme?: string;
}

/** In the order they can be set up: components before what they go into. */
export const PRODUCTS: DemoProduct[] = [
  {
    code: 'FAB-210',
    name: 'coated fabric 210',
    unit: 'm',
    decimals: 2,
    plan: 'ROLL',
    netWeightKg: '0.31',
    overReceiptPercent: '3'
  },
  {
    code: 'WEB-40',
    name: 'webbing 40 mm',
    unit: 'm',
    decimals: 2,
    marking: 'lot',
    netWeightKg: '0.05'
  },
  {
    code: 'CYL-33',
    name: 'gas cylinder 33 g',
    unit: 'each',
    plan: 'GAS',
    gtin: gtin(33),
    netWeightKg: '0.1',
    grossWeightKg: '0.133'
  },
  {
    code: 'BOB-S',
    name: 'dissolving bobbin',
    unit: 'each',
    marking: 'lot',
    shelfLifeDays: 1096,
    gtin: gtin(40),
    netWeightKg: '0.004',
    overReceiptPercent: '5',
    units: [{ name: 'pack', holds: '100', gtin: gtin(41) }]
  },
  {
    code: 'HEAD-A',
    name: 'firing head',
    unit: 'each',
    plan: 'DEVICE',
    gtin: gtin(50),
    netWeightKg: '0.09'
  },
  {
    code: 'GLU-2',
    name: 'seam adhesive',
    unit: 'kg',
    decimals: 3,
    plan: 'COLD',
    gtin: gtin(60),
    netWeightKg: '1'
  },
  { code: 'BKL', name: 'buckle set', unit: 'each', marking: 'none', netWeightKg: '0.06' },
  { code: 'TUBE', name: 'oral tube', unit: 'each', marking: 'lot', netWeightKg: '0.03' },
  {
    code: 'PNL',
    name: 'cut panel set',
    unit: 'set',
    made: true,
    marking: 'lot',
    lotScheme: 'BATCH',
    components: [['FAB-210', '1.8', { scrapPercent: '4' }]]
  },
  {
    code: 'BLD',
    name: 'welded bladder',
    unit: 'each',
    made: true,
    marking: 'lot',
    lotScheme: 'BATCH',
    components: [
      ['PNL', '1'],
      ['GLU-2', '0.12', { scrapPercent: '5' }],
      ['TUBE', '1']
    ]
  },
  {
    code: 'INF',
    name: 'inflator module',
    unit: 'each',
    made: true,
    marking: 'serial',
    serialScheme: 'INFLATOR',
    components: [
      ['HEAD-A', '1'],
      ['CYL-33', '1'],
      ['BOB-S', '1']
    ]
  },
  {
    code: 'TN150',
    name: 'lifejacket Tern 150',
    unit: 'each',
    made: true,
    marking: 'serial',
    serialScheme: 'TERN-150',
    warrantyMonths: 24,
    gtin: gtin(150),
    netWeightKg: '1.1',
    grossWeightKg: '1.35',
    lengthCm: '62',
    widthCm: '34',
    heightCm: '9',
    components: [
      ['BLD', '1'],
      ['INF', '1'],
      ['WEB-40', '2.4'],
      ['BKL', '1']
    ]
  },
  {
    code: 'TN275',
    name: 'lifejacket Tern 275',
    unit: 'each',
    made: true,
    marking: 'serial',
    warrantyMonths: 24,
    gtin: gtin(275),
    netWeightKg: '1.6',
    grossWeightKg: '1.9',
    lengthCm: '66',
    widthCm: '36',
    heightCm: '11',
    components: [
      ['BLD', '1'],
      ['INF', '2', { positions: ['left', 'right'] }],
      ['WEB-40', '3.1', { follow: 'batch' }],
      ['BKL', '2']
    ]
  },
  {
    code: 'RK-1',
    name: 're-arm kit, single',
    unit: 'kit',
    made: true,
    plan: 'KIT',
    gtin: gtin(701),
    netWeightKg: '0.104',
    components: [
      ['CYL-33', '1'],
      ['BOB-S', '1']
    ]
  },
  {
    code: 'RK-6',
    name: 're-arm kit, six',
    unit: 'kit',
    made: true,
    plan: 'KIT',
    gtin: gtin(706),
    netWeightKg: '0.624',
    components: [
      ['CYL-33', '6'],
      ['BOB-S', '6']
    ]
  },
  {
    code: 'SEAL',
    name: 'seam sealant',
    unit: 'kg',
    decimals: 3,
    marking: 'lot',
    netWeightKg: '1'
  },
  {
    code: 'PATCH',
    name: 'patch kit',
    unit: 'each',
    made: true,
    marking: 'lot',
    netWeightKg: '0.05',
    components: [['SEAL', '0.04']]
  }
];

export const PEOPLE: { login: string; name: string; roles: Role[] }[] = [
  { login: 'ines', name: 'Ines Adeyemi-Holt', roles: ['receiver'] },
  { login: 'tomas', name: 'Tomas Wrigglesby', roles: ['builder'] },
  { login: 'priya', name: 'Priya Oakenfold', roles: ['shipper'] },
  { login: 'marit', name: 'Marit Solheim-Dunne', roles: ['quality'] },
  { login: 'wilf', name: 'Wilf Carrow', roles: ['coordinator'] },
  { login: 'elis', name: 'Elis Thornbury-Vane', roles: ['service'] },
  { login: 'noor', name: 'Noor Bexley-Tam', roles: ['auditor'] },
  { login: 'admin', name: 'Office administrator', roles: ['administrator'] }
];

/** The route of the jackets over the floor. */
export const ROUTE = {
  code: 'JACKETS',
  name: 'jackets, line 2',
  products: ['TN150', 'TN275'],
  stations: [
    { code: 'J-BLD', name: 'fit bladder' },
    { code: 'J-INF', name: 'fit inflator' },
    { code: 'J-LEAK', name: 'leak test' },
    { code: 'J-PACK', name: 'pack' }
  ]
};
