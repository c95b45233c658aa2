import { send, type Refusal } from '../frame/api.ts';
import type { Fault } from './booking-sheet.svelte.ts';

/** A second person's word for faults of one document; it waits for the booking until a time. */
export interface Approval {
  approval: string;
  by: string;
  /** An instant. */
  until: string;
}

export const waitForSecond = (faults: readonly Fault[]): Fault[] =>
  faults.filter((fault) => fault.answer === 'second person');

/** Asks for the approval of these faults. The password is sent and kept nowhere. */
export async function askApproval(
  document: string,
  faults: readonly Fault[],
  person: { login: string; password: string; reason: string }
): Promise<{ ok: true; given: Approval } | { ok: false; refusal: Refusal }> {
  const reply = await send<Approval>('POST', '/api/v1/approvals', {
    ...person,
    document,
    faults: waitForSecond(faults).map(({ code, number = null, message }) => ({
      code,
      number,
      message
    }))
  });
  return reply.ok ? { ok: true, given: reply.body } : reply;
}
