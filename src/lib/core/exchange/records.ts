import type { Right } from '../people/rights.ts';

/** A column of a list of records; what a row leads to by it. */
export interface RecordColumn {
  key: string;
  says: string;
  /** `event` and `mark` lead to its page by the id of that name; `number` is set in figures. */
  as?: 'event' | 'mark' | 'number';
}

/** One of the lists an auditor asks for. */
export interface RecordList {
  title: string;
  /** What it tells, as a sentence. */
  says: string;
  right: Right;
  /** Asked for a period, or as it stood on a day. */
  asks: 'period' | 'day';
  columns: readonly RecordColumn[];
}

/** What a row tells of its event, first in each list. */
const EVENT: readonly RecordColumn[] = [
  { key: 'day', says: 'day' },
  { key: 'document', says: 'document', as: 'event' }
];
const MARK: readonly RecordColumn[] = [
  { key: 'product', says: 'product', as: 'number' },
  { key: 'number', says: 'lot or serial', as: 'mark' }
];

/** The auditor's lists, by their address. */
export const RECORDS = {
  shipped: {
    title: 'What went out',
    says: 'Every lot and serial that left, for whom, where it came from and what was in it then.',
    right: 'read',
    asks: 'period',
    columns: [
      ...EVENT,
      { key: 'customer', says: 'to' },
      ...MARK,
      { key: 'lot', says: 'within lot', as: 'number' },
      { key: 'quantity', says: 'quantity', as: 'number' },
      { key: 'unit', says: 'unit' },
      { key: 'came', says: 'came from' },
      { key: 'madeOf', says: 'made of' },
      { key: 'takenBack', says: 'taken back' }
    ]
  },
  changes: {
    title: 'What was put right',
    says: 'Every change of a number, a date, a supplier’s number or a fact, with what stood there before.',
    right: 'read',
    asks: 'period',
    columns: [
      ...EVENT,
      ...MARK,
      { key: 'field', says: 'what' },
      { key: 'was', says: 'was' },
      { key: 'is', says: 'became' },
      { key: 'reason', says: 'reason' },
      { key: 'by', says: 'by' }
    ]
  },
  gains: {
    title: 'Gains and losses',
    says: 'What was found, lost, scrapped or valued anew, with its cost, the reason and who approved it.',
    right: 'see.costs',
    asks: 'period',
    columns: [
      ...EVENT,
      { key: 'kind', says: 'what' },
      ...MARK,
      { key: 'quantity', says: 'quantity', as: 'number' },
      { key: 'unit', says: 'unit' },
      { key: 'amount', says: 'amount', as: 'number' },
      { key: 'reason', says: 'reason' },
      { key: 'by', says: 'by' },
      { key: 'approvedBy', says: 'approved by' }
    ]
  },
  overruled: {
    title: 'In spite of a fault',
    says: 'What was booked although a fault was told: with which reason, and who approved it.',
    right: 'read',
    asks: 'period',
    columns: [
      ...EVENT,
      { key: 'number', says: 'number', as: 'number' },
      { key: 'fault', says: 'the fault' },
      { key: 'answer', says: 'answered by' },
      { key: 'reason', says: 'reason' },
      { key: 'by', says: 'booked by' },
      { key: 'approvedBy', says: 'approved by' }
    ]
  },
  rights: {
    title: 'Who could do what',
    says: 'The roles people had at the end of a day, since when, and who gave them.',
    right: 'read.security',
    asks: 'day',
    columns: [
      { key: 'name', says: 'name' },
      { key: 'login', says: 'signs in as', as: 'number' },
      { key: 'roles', says: 'roles' },
      { key: 'standing', says: 'account' },
      { key: 'since', says: 'since' },
      { key: 'by', says: 'changed by' }
    ]
  },
  exports: {
    title: 'What was taken as a file',
    says: 'Tables, papers and documents that somebody saved: who, when and from where.',
    right: 'read.security',
    asks: 'period',
    columns: [
      { key: 'at', says: 'when' },
      { key: 'who', says: 'who' },
      { key: 'token', says: 'through the token' },
      { key: 'address', says: 'from', as: 'number' },
      { key: 'about', says: 'what', as: 'number' }
    ]
  }
} as const satisfies Record<string, RecordList>;
export type RecordKind = keyof typeof RECORDS;
export const RECORD_KINDS = Object.keys(RECORDS) as [RecordKind, ...RecordKind[]];
