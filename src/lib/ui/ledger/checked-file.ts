import {
  checkEvent,
  isHeadSigned,
  openProof,
  type CheckedEvent
} from '../../core/seal/check-proof.ts';
import type { SignedHead } from '../../core/seal/proof.ts';

export interface CheckedFile {
  of: string;
  head: SignedHead;
  signed: boolean;
  /** Signed by the key of the Earmark that shows this; null where it has none. */
  ours: boolean | null;
  events: CheckedEvent[];
}

/** So many events are looked at before the screen has its turn. */
const AT_ONCE = 200;
const turn = (): Promise<void> => new Promise((next) => setTimeout(next, 0));

/**
 * Checks a proof file in the browser: nothing is sent anywhere.
 * @param text what stands in the file
 * @param ourKey in base64
 * @returns null where it is no proof file of ours
 */
export async function checkFile(text: string, ourKey: string | null): Promise<CheckedFile | null> {
  const proof = openProof(readJson(text));
  if (!proof) return null;
  const { of, head } = proof;
  const events: CheckedEvent[] = [];
  for (let at = 0; at < proof.events.length; at += AT_ONCE) {
    events.push(...proof.events.slice(at, at + AT_ONCE).map(checkEvent));
    await turn();
  }
  const ours = ourKey === null ? null : ourKey === head.key;
  return { of, head, events, ours, signed: isHeadSigned(head) };
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
