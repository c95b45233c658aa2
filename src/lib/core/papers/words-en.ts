import { LIMITS_IN_ENGLISH } from '../quality/limit-words.ts';
import { STATES_IN_ENGLISH } from '../service/state-words.ts';

const some = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

/** What our papers to partners say in English. Days and numbers come as they are to be read. */
export const english = {
  page: (page: number, of: number) => `page ${page} of ${of}`,
  lines: (count: number) => some(count, 'line', 'lines'),
  from: 'from',
  to: 'to',
  for: 'for',
  date: 'date',
  about: 'about',
  event: 'event',
  by: (at: string, who: string) => `${at}, by ${who}`,
  withoutNumber: 'without number',
  lot: (number: string) => `lot ${number}`,
  made: (day: string) => `made ${day}`,
  expires: (day: string) => `expires ${day}`,
  warrantyUntil: (day: string) => `warranty until ${day}`,
  delivery: {
    title: 'Delivery note',
    left: 'left',
    carrier: 'carrier’s number',
    packedIn: 'packed in',
    cartons: (count: number) => some(count, 'carton', 'cartons'),
    onPallets: (cartons: string, count: number) =>
      `${cartons} on ${some(count, 'pallet', 'pallets')}`,
    weight: 'weight',
    net: (weight: string) => `net ${weight}`,
    gross: (weight: string) => `gross ${weight}`,
    volumetric: 'volumetric weight',
    byRoad: (weight: string) => `by road ${weight}`,
    byAir: (weight: string) => `by air ${weight}`,
    notKnown: 'not known for every product',
    carton: 'Carton',
    loose: 'Loose',
    onPallet: (sscc: string) => `on pallet ${sscc}`,
    takenOver: (who: string, at: string) => `taken over by ${who}, ${at}`
  },
  receipt: {
    title: 'Confirmation of receipt',
    order: 'our order',
    asOf: 'as of',
    complete: 'Everything ordered has come.',
    open: (count: number) => `${some(count, 'line is', 'lines are')} not complete.`,
    ordered: 'ordered',
    received: 'received',
    toCome: 'to come',
    over: (quantity: string) => `${quantity} more than ordered`,
    due: (day: string) => `due ${day}`,
    receipts: 'What came, and when',
    yourNote: (number: string) => `your delivery note ${number}`,
    nothing: 'Nothing has come yet.'
  },
  notice: {
    recall: 'Recall notice',
    recallReminder: 'Recall reminder',
    drill: 'Recall drill: notice',
    drillReminder: 'Recall drill: reminder',
    isDrill:
      'This is a drill. Nothing is wrong with your goods, and nothing needs to be done with them.',
    weWrote: (at: string) =>
      `We wrote to you on ${at}. What is listed below is still open: please tell us what became of it, or send it back.`,
    wrong: 'What is wrong',
    ask: 'What we ask you to do',
    goods: 'What you have of it, by our records',
    open: 'What is still open, by our records',
    answer: 'Your answer',
    returned: 'returned to us',
    destroyed: 'destroyed with you',
    gone: 'used or not found, and why'
  },
  claim: {
    title: 'Claim',
    yourNumber: 'your number',
    parts: 'parts',
    opening:
      'We received these parts from you and claim them under your warranty, where nothing else is said. Please credit or replace them, part by part.',
    received: (document: string, day: string | null) =>
      `received on ${document}${day === null ? '' : `, ${day}`}`,
    noPaper: 'no paper known',
    goodwill: 'claimed as goodwill',
    foot: (number: string) => `Claim ${number}`
  },
  job: {
    title: 'Taken in for service',
    takenBy: 'by',
    unit: 'unit',
    serial: (product: string, serial: string) => `${product}, serial ${serial}`,
    opened: 'opened',
    promised: 'promised for',
    warranty: 'warranty until',
    ask: 'ask by',
    wrong: 'What is wrong',
    condition: 'Its condition',
    cameWith: 'What came with it',
    handedOver: 'handed over by',
    foot: (number: string) => `Job ${number}`
  },
  turn: {
    states: STATES_IN_ENGLISH,
    says: (unit: string, job: string, state: string) =>
      `Of your ${unit}, our job ${job}: ${state}.`,
    tracking: (number: string) => `Tracking number ${number}.`
  },
  certificate: {
    title: 'Certificate of analysis',
    issued: 'issued',
    signed: 'approved by',
    with: 'with',
    spec: (whose: string, version: number) => `spec of ${whose}, version ${version}`,
    test: (id: number) => `test ${id}`,
    checkedBy: (who: string) => `checked by ${who}`,
    notSigned: 'not signed off',
    testedBy: (who: string) => `by ${who}`,
    notTested: 'not tested',
    verdicts: {
      conforms: 'conforms',
      'does not conform': 'does not conform',
      untested: 'untested'
    } as Record<string, string>,
    limits: LIMITS_IN_ENGLISH,
    marks: (count: number) => some(count, 'lot or serial', 'lots and serials')
  }
};

/** All that our papers to partners say: a further language is one more file of this shape. */
export type PaperWords = typeof english;
