import type { FaultCode } from './fault-codes.ts';
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
  /** Set where the plan lets the booking go on with a written reason. */
  answer?: 'reason';
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
}

/** Gathers all faults of one booking, so that a person is told everything at once. */
export class Faults {
  readonly list: Fault[] = [];
  readonly notes: Note[] = [];
  readonly remarks: Remark[] = [];

  constructor(private readonly reasons: Reasons = {}) {}

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
    const reason = this.reasons[code]?.trim() || null;
    if (reason !== null) {
      this.note(path, message, number);
      this.remarks.push({ code, answer: 'reason', number: number ?? null, message, reason });
      return;
    }
    this.add(code, path, `${message} Or go on with a written reason.`, number);
    this.list.at(-1)!.answer = 'reason';
  }

  /**
   * A fault that a plan answers for itself.
   * @returns whether the booking may go on: the plan says `note`, or `reason` and one was given for
   * faults of this code
   */
  answer(
    plan: Answering,
    situation: Situation,
    path: string,
    message: string,
    number?: string
  ): boolean {
    const { code } = SITUATIONS[situation];
    const answer = plan.answers[situation];
    const reason = answer === 'reason' ? this.reasons[code]?.trim() || null : null;
    if (answer === 'stop' || (answer === 'reason' && reason === null)) {
      this.add(
        code,
        path,
        answer === 'stop' ? message : `${message} Or go on with a written reason.`,
        number
      );
      if (answer === 'reason') this.list.at(-1)!.answer = 'reason';
      return false;
    }
    this.note(path, message, number);
    this.remarks.push({ code, answer, number: number ?? null, message, reason });
    return true;
  }
}
