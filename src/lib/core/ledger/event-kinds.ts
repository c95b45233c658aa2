/**
 * What an event of a kind means to the balance of a mark: it `makes` (all that ever came in of it),
 * `ships` (left to customers, or came back), `scraps`, `corrects` what was counted, or nothing.
 */
export type Meaning = 'makes' | 'ships' | 'scraps' | 'corrects' | null;

/** How EPCIS says it. Source: Core Business Vocabulary 2.0, sections 7.1 and 7.2. */
export interface EpcisStep {
  step: string;
  disposition?: string;
  action?: 'ADD' | 'OBSERVE' | 'DELETE';
}

export interface EventKindFacts {
  /** Its number in the packed genealogy: never given to another kind, as indexes are kept in files. */
  code: number;
  balance: Meaning;
  /**
   * Null where no goods are named (steps on the floor; a reversal, which is what it takes back) or
   * nothing befalls them (a revaluation).
   */
  epcis: EpcisStep | null;
}

/** Every kind of event the ledger has, in the order of their codes. */
export const EVENT_KINDS = {
  receive: {
    code: 1,
    balance: 'makes',
    epcis: { step: 'receiving', disposition: 'in_progress' }
  },
  'put away': { code: 2, balance: null, epcis: { step: 'storing', disposition: 'in_progress' } },
  move: { code: 3, balance: null, epcis: { step: 'storing', disposition: 'in_progress' } },
  transfer: {
    code: 4,
    balance: null,
    epcis: { step: 'transporting', disposition: 'in_transit' }
  },
  build: { code: 5, balance: 'makes', epcis: { step: 'assembling', disposition: 'in_progress' } },
  repack: {
    code: 6,
    balance: 'makes',
    epcis: { step: 'repackaging', disposition: 'in_progress' }
  },
  teardown: {
    code: 7,
    balance: 'makes',
    epcis: { step: 'disassembling', disposition: 'in_progress' }
  },
  identify: { code: 8, balance: 'makes', epcis: { step: 'commissioning', disposition: 'active' } },
  pack: { code: 9, balance: null, epcis: { step: 'packing', disposition: 'in_progress' } },
  unpack: { code: 10, balance: null, epcis: { step: 'unpacking', disposition: 'in_progress' } },
  ship: { code: 11, balance: 'ships', epcis: { step: 'shipping', disposition: 'in_transit' } },
  count: { code: 12, balance: 'corrects', epcis: { step: 'cycle_counting' } },
  gain: { code: 13, balance: 'corrects', epcis: { step: 'cycle_counting' } },
  loss: { code: 14, balance: 'corrects', epcis: { step: 'cycle_counting' } },
  scrap: {
    code: 15,
    balance: 'scraps',
    epcis: { step: 'destroying', disposition: 'destroyed', action: 'DELETE' }
  },
  hold: { code: 16, balance: null, epcis: { step: 'holding', disposition: 'non_sellable_other' } },
  release: { code: 17, balance: null, epcis: { step: 'inspecting', disposition: 'conformant' } },
  reject: {
    code: 18,
    balance: null,
    epcis: { step: 'inspecting', disposition: 'non_conformant' }
  },
  return: { code: 19, balance: 'ships', epcis: { step: 'receiving', disposition: 'returned' } },
  fit: { code: 20, balance: null, epcis: { step: 'installing' } },
  remove: { code: 21, balance: null, epcis: { step: 'removing' } },
  station: { code: 22, balance: null, epcis: null },
  amendment: { code: 23, balance: null, epcis: { step: 'inspecting' } },
  reversal: { code: 24, balance: null, epcis: null },
  swap: { code: 25, balance: null, epcis: { step: 'installing' } },
  opening: {
    code: 26,
    balance: 'makes',
    epcis: { step: 'commissioning', disposition: 'active', action: 'ADD' }
  },
  revaluation: { code: 27, balance: null, epcis: null },
  /** A unit nobody here ever made or bought comes in for service. */
  intake: {
    code: 28,
    balance: 'makes',
    epcis: { step: 'receiving', disposition: 'returned' }
  }
} as const satisfies Record<string, EventKindFacts>;

export type EventKind = keyof typeof EVENT_KINDS;

export const isEventKind = (text: string): text is EventKind => Object.hasOwn(EVENT_KINDS, text);

/** What is known of a kind by its name; null where the ledger has no such kind. */
export const eventKind = (text: string): EventKindFacts | null =>
  isEventKind(text) ? EVENT_KINDS[text] : null;

/** Kinds by what they mean to a balance. */
export const kindsThat = (meaning: Meaning): ReadonlySet<string> =>
  new Set(
    Object.entries(EVENT_KINDS).flatMap(([kind, { balance }]) =>
      balance === meaning ? [kind] : []
    )
  );
