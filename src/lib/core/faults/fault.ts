import type { FaultCode } from './fault-codes.ts';
import type { SignatureAsked } from '../people/signing.ts';
import type { Granted } from './granted.ts';
import { SITUATIONS, type Answer, type Situation } from './situations.ts';

/** What of a marking plan says how faults are answered. */
interface Answering {
  answers: Readonly<Record<Situation, Answer>>;
}

/** Written reasons for going on, by fault code: one for all faults of a kind. */
export type Reasons = Readonly<Partial<Record<string, string>>>;

export interface Fault {
  code: FaultCode;
  /** Where in the request, as `lines[2].marks[7]`. */
  path: string;
  /** The number, code or document that is wrong. */
  number?: string;
  /** What is wrong, where, and what mends it. */
  message: string;
  /** The event that stands in the way, by its id. */
  event?: number;
  /** Set where the plan lets the booking go on: with a written reason, or a second person's word. */
  answer?: 'reason' | 'second person';
  /** Set where a signature is missing: of which act, and whose. */
  sign?: SignatureAsked;
}

/** Something worth saying that does not stop the booking. */
export interface Note {
  path: string;
  number?: string;
  message: string;
}

/** A fault the booking went on in spite of, as its plan allows; kept with the event for ever. */
export interface Remark {
  code: FaultCode;
  answer: Exclude<Answer, 'stop'>;
  number: string | null;
  message: string;
  reason: string | null;
  /** The approval it went on with, by its id. */
  approval: number | null;
}

/** What is wrong, before it is known how it is answered. */
interface Wrong {
  code: FaultCode;
  path: string;
  message: string;
  number: string | undefined;
}

const grantKey = ({ code, number }: Pick<Granted, 'code' | 'number'>): string =>
  `${code} ${number ?? ''}`;

const ASKS = {
  reason: 'Or go on with a written reason.',
  'second person': 'Or have a second person approve it.'
} as const;

/** Gathers all faults of one booking, so that a person is told everything at once. */
export class Faults {
  readonly list: Fault[] = [];
  readonly notes: Note[] = [];
  readonly remarks: Remark[] = [];

  /**
   * @param reasons what the person who books wrote, by fault code
   * @param granted what was approved or given a reason before, fault by fault
   */
  constructor(
    private readonly reasons: Reasons = {},
    granted: readonly Granted[] = []
  ) {
    // What a second person approved goes before what only has a reason.
    const approvedLast = [...granted].sort((a, b) => (a.approval ?? 0) - (b.approval ?? 0));
    this.granted = new Map(approvedLast.map((one) => [grantKey(one), one]));
  }

  private readonly granted: ReadonlyMap<string, Granted>;

  add(code: FaultCode, path: string, message: string, number?: string): void {
    this.list.push(
      number === undefined ? { code, path, message } : { code, path, number, message }
    );
  }

  /** A fault with the event that stands in the way, so that a screen can lead there. */
  inTheWay(path: string, message: string, number: string, event: number | undefined): void {
    this.add('event.moved-on', path, message, number);
    if (event !== undefined) this.list.at(-1)!.event = event;
  }

  note(path: string, message: string, number?: string): void {
    this.notes.push(number === undefined ? { path, message } : { path, number, message });
  }

  /** A fault that a booking may go on in spite of with a written reason, whatever the plan says. */
  answerWithReason(code: FaultCode, path: string, message: string, number?: string): void {
    const wrong = { code, path, message, number };
    const reason = this.reasonFor(wrong);
    if (reason === null) this.ask('reason', wrong);
    else this.goOn('reason', wrong, reason);
  }

  /**
   * A fault that a plan answers for itself.
   * @returns whether the booking may go on: the plan says `note`, or `reason` and one was given for
   * faults of this code, or `second person` and one approved this very fault
   */
  answer(
    plan: Answering,
    situation: Situation,
    path: string,
    message: string,
    number?: string
  ): boolean {
    const wrong = { code: SITUATIONS[situation].code, path, message, number };
    const answer = plan.answers[situation];
    if (answer === 'note') return this.goOn('note', wrong, null);
    if (answer === 'second person') {
      const approved = this.grantedFor(wrong, true);
      if (!approved) return this.ask('second person', wrong);
      return this.goOn('second person', wrong, approved.reason, approved.approval);
    }
    const reason = answer === 'reason' ? this.reasonFor(wrong) : null;
    if (reason !== null) return this.goOn('reason', wrong, reason);
    if (answer === 'reason') return this.ask('reason', wrong);
    this.add(wrong.code, path, message, number);
    return false;
  }

  /** The reason that was written now for all faults of the kind, or before for this one. */
  private reasonFor(wrong: Wrong): string | null {
    return this.reasons[wrong.code]?.trim() || (this.grantedFor(wrong, false)?.reason ?? null);
  }

  private grantedFor({ code, number }: Wrong, approved: boolean): Granted | undefined {
    const granted = this.granted.get(grantKey({ code, number: number ?? null }));
    return approved && granted?.approval === null ? undefined : granted;
  }

  private ask(answer: 'reason' | 'second person', wrong: Wrong): false {
    this.add(wrong.code, wrong.path, `${wrong.message} ${ASKS[answer]}`, wrong.number);
    this.list.at(-1)!.answer = answer;
    return false;
  }

  private goOn(
    answer: Remark['answer'],
    { code, path, message, number }: Wrong,
    reason: string | null,
    approval: number | null = null
  ): true {
    this.note(path, message, number);
    this.remarks.push({ code, answer, number: number ?? null, message, reason, approval });
    return true;
  }
}
