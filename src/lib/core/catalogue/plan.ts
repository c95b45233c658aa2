import type { Answer, Situation } from '../faults/situations.ts';
import type { Signers } from '../people/signing.ts';
import type { Marking } from './marking.ts';

/** The kinds of event at which a plan can ask for a number. */
export const CHECKPOINTS = [
  'receive',
  'put away',
  'move',
  'transfer',
  'issue',
  'output',
  'ship',
  'return',
  'gain',
  'loss',
  'count'
] as const;
export type Checkpoint = (typeof CHECKPOINTS)[number];

/** Whether a number is asked: it must be given, may be given, or is not taken. */
export const ASKED = ['always', 'optionally', 'never'] as const;
export type Asked = (typeof ASKED)[number];

/** Where a mark's expiry comes from; `components` is the earliest expiry of what it was made of. */
export const EXPIRY_RULES = ['entered', 'if given', 'computed', 'components', 'not kept'] as const;
export type ExpiryRule = (typeof EXPIRY_RULES)[number];
/**
 * Where the day it was made comes from: for goods made here that day is known, so the rule is for
 * what is received.
 */
export const MADE_RULES = ['entered', 'if given', 'not kept'] as const;
export type MadeRule = (typeof MADE_RULES)[number];
export const RETEST_RULES = ['entered', 'if given', 'computed', 'not kept'] as const;
export type RetestRule = (typeof RETEST_RULES)[number];

export const DESTINATIONS = ['the place named', 'quarantine'] as const;
export type Destination = (typeof DESTINATIONS)[number];

export const FACT_KINDS = ['text', 'number', 'choice', 'yes/no', 'date'] as const;
export type FactKind = (typeof FACT_KINDS)[number];

/**
 * A fact a plan asks for on a mark. Limits are decimal strings in the fact's unit and include
 * themselves.
 */
export interface FactAsked {
  name: string;
  kind: FactKind;
  unit: string;
  least: string | null;
  most: string | null;
  choices: readonly string[];
  required: boolean;
}

/**
 * How a product is marked. Codes of schemes are those of Setup; days and months are whole numbers.
 */
export interface MarkingPlan {
  identity: Marking;
  asks: Readonly<Record<Checkpoint, Asked>>;
  expires: ExpiryRule;
  shelfLifeDays: number | null;
  made: MadeRule;
  retest: RetestRule;
  retestDays: number | null;
  warrantyMonths: number | null;
  facts: readonly FactAsked[];
  lotScheme: string | null;
  serialScheme: string | null;
  /** Where what is received, and what customers send back, lies first. */
  receivedTo: Destination;
  returnedTo: Destination;
  /** Where what comes back in an open recall lies first. */
  recalledTo: Destination;
  /** Where what a count finds beyond what was known lies first. */
  foundTo: Destination;
  answers: Readonly<Record<Situation, Answer>>;
  /** Who signs which act; nobody where nothing is said. */
  signers?: Signers;
}

const everywhere = (asked: Asked): Record<Checkpoint, Asked> =>
  Object.fromEntries(CHECKPOINTS.map((checkpoint) => [checkpoint, asked])) as Record<
    Checkpoint,
    Asked
  >;

/**
 * Ways of asking that have a name: a plan's sentence offers these before it offers one checkpoint
 * after the other.
 */
export const WAYS = {
  'at every step': everywhere('always'),
  'at every step, but it may come later': {
    ...everywhere('always'),
    receive: 'optionally',
    'put away': 'optionally',
    move: 'optionally',
    output: 'optionally',
    gain: 'optionally',
    count: 'optionally'
  },
  'only when it is shipped': { ...everywhere('never'), ship: 'always', return: 'always' }
} as const satisfies Record<string, Record<Checkpoint, Asked>>;
export type Way = keyof typeof WAYS;

/** The named way a plan asks in; null where each checkpoint has its own. */
export const wayOf = (plan: Pick<MarkingPlan, 'asks'>): Way | null =>
  (Object.keys(WAYS) as Way[]).find((way) =>
    CHECKPOINTS.every((checkpoint) => WAYS[way][checkpoint] === plan.asks[checkpoint])
  ) ?? null;

const USUAL_PLACES = {
  receivedTo: 'the place named',
  returnedTo: 'the place named',
  recalledTo: 'the place named',
  foundTo: 'the place named'
} as const;

const USUAL_ANSWERS: Record<Situation, Answer> = {
  held: 'stop',
  rejected: 'stop',
  expired: 'stop',
  'arrives expired': 'note',
  'off limits': 'stop',
  'fact missing': 'stop',
  'date missing': 'stop',
  'out of order': 'reason',
  'life too short': 'reason',
  'not tested': 'reason',
  'lots mixed': 'reason',
  'dates mixed': 'reason',
  'number missing': 'stop'
};

/** A plan as it was kept; what was not asked of plans then is as usual. */
export const withUsualAnswers = (plan: MarkingPlan): MarkingPlan => ({
  ...USUAL_PLACES,
  ...plan,
  answers: { ...USUAL_ANSWERS, ...plan.answers }
});

/**
 * The plan of a product that names none: followed all the way, an expiry computed where there is a
 * shelf life, nothing else asked.
 */
export const plainPlan = (
  identity: Marking,
  {
    shelfLifeDays = null,
    warrantyMonths = null
  }: { shelfLifeDays?: number | null; warrantyMonths?: number | null } = {}
): MarkingPlan => ({
  identity,
  asks: WAYS['at every step'],
  expires: shelfLifeDays === null ? 'if given' : 'computed',
  shelfLifeDays,
  made: 'if given',
  retest: 'if given',
  retestDays: null,
  warrantyMonths,
  facts: [],
  lotScheme: null,
  serialScheme: null,
  ...USUAL_PLACES,
  answers: USUAL_ANSWERS
});

/** What a product says itself goes before what its plan says. */
export function planOf(
  plan: MarkingPlan,
  own: Partial<Pick<MarkingPlan, 'shelfLifeDays' | 'warrantyMonths' | 'lotScheme' | 'serialScheme'>>
): MarkingPlan {
  return {
    ...plan,
    shelfLifeDays: own.shelfLifeDays ?? plan.shelfLifeDays,
    warrantyMonths: own.warrantyMonths ?? plan.warrantyMonths,
    lotScheme: own.lotScheme ?? plan.lotScheme,
    serialScheme: own.serialScheme ?? plan.serialScheme
  };
}

/**
 * The plan a product is marked by: the body of its own, or the plain one of its marking where it
 * names none.
 */
export const effectivePlan = (
  body: MarkingPlan | null,
  marking: Marking,
  own: { shelfLifeDays: number | null; warrantyMonths: number | null }
): MarkingPlan => (body ? planOf(withUsualAnswers(body), own) : plainPlan(marking, own));

/** Whether goods of the product may be on hand without their number for a while. */
export const numbersComeLater = (plan: MarkingPlan): boolean =>
  plan.identity !== 'none' && (plan.asks.receive !== 'always' || plan.asks.output !== 'always');

/**
 * Whether a number still missing is work to be done now, and not something the plan only asks for
 * at shipping.
 */
export const owesNumbers = (plan: MarkingPlan): boolean =>
  plan.identity !== 'none' && !(plan.asks.receive === 'never' && plan.asks.output === 'never');

export const hasLots = (identity: Marking): boolean =>
  identity === 'lot' || identity === 'serial-in-lot';

export const hasSerials = (identity: Marking): boolean =>
  identity === 'serial' || identity === 'serial-in-lot';

/** What is wrong with a plan, in sentences; empty where it can be kept. */
export function planFaults(plan: MarkingPlan): string[] {
  const faults: string[] = [];
  const seen = new Set<string>();
  for (const fact of plan.facts) {
    const key = fact.name.trim().toUpperCase();
    if (key === '') faults.push('A fact has no name. Name it, such as “certificate number”.');
    else if (seen.has(key))
      faults.push(
        `The fact “${fact.name}” is asked twice. Name the second differently, or take it out.`
      );
    seen.add(key);
    if (fact.kind === 'choice' && fact.choices.length < 2)
      faults.push(`“${fact.name}” is a choice but has fewer than two to choose from.`);
    const [least, most] = [fact.least, fact.most].map((limit) =>
      limit === null || limit === '' ? null : Number(limit)
    );
    if (fact.kind === 'number' && (Number.isNaN(least) || Number.isNaN(most)))
      faults.push(`A limit of “${fact.name}” is no number.`);
    else if (least != null && most != null && least > most)
      faults.push(
        `“${fact.name}” can never fit: its least, ${fact.least}, is above its most, ${fact.most}.`
      );
  }
  if (plan.retest === 'computed' && plan.retestDays === null)
    faults.push('The retest date is computed, but after how many days is not said.');
  if (plan.identity === 'none' && plan.expires !== 'not kept' && plan.expires !== 'if given')
    faults.push(
      'What is kept by quantity only has no mark to keep an expiry on. Mark it by lot, or keep no expiry.'
    );
  if (plan.identity === 'none' && plan.facts.length > 0)
    faults.push(
      'What is kept by quantity only has no mark to keep facts on. Mark it by lot, or take the facts out.'
    );
  return faults;
}
