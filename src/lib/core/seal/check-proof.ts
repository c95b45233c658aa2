import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { isObject } from '../is-object.ts';
import { headText } from './head.ts';
import type { Proof, ProofOfMany, SignedHead } from './proof.ts';
import { leafHash } from './tree.ts';
import { includes } from './verify.ts';

/** What an entry says of itself, and whether it is what was sealed. */
export interface CheckedEvent {
  event: number;
  kind: string;
  document: string;
  happenedAt: string;
  holds: boolean;
}

export interface OpenedProof {
  /** What rests on the events, in words; one event where nothing more is said. */
  of: string;
  head: SignedHead;
  events: Proof[];
}

const isHead = (value: unknown): value is SignedHead =>
  isObject(value) &&
  Number.isSafeInteger(value.size) &&
  ['root', 'at', 'key', 'signature'].every((name) => typeof value[name] === 'string');

const isProven = (value: unknown): boolean =>
  isObject(value) &&
  Number.isSafeInteger(value.event) &&
  Number.isSafeInteger(value.position) &&
  typeof value.entry === 'string' &&
  Array.isArray(value.path);

/**
 * Opens a proof file: of one event, or of many that share their hashes.
 * @returns null where it is no proof of ours
 */
export function openProof(file: unknown): OpenedProof | null {
  if (!isObject(file) || !isHead(file.head)) return null;
  const { head } = file;
  if (!Array.isArray(file.events)) {
    if (!isProven(file)) return null;
    const proof = file as unknown as Proof;
    return { of: `event ${proof.event}`, head, events: [proof] };
  }
  const { of, events, hashes } = file as unknown as ProofOfMany;
  if (!events.every(isProven) || !Array.isArray(hashes)) return null;
  return {
    of: String(of ?? ''),
    head,
    events: events.map((one) => ({
      ...one,
      path: one.path.map((at) => String(hashes[at] ?? '')),
      head
    }))
  };
}

/** Whether the head was signed by the key it names (Ed25519, RFC 8032). */
export function isHeadSigned(head: SignedHead): boolean {
  try {
    const [signature, key] = [fromBase64(head.signature), fromBase64(head.key)];
    return ed25519.verify(signature, utf8ToBytes(headText(head)), key);
  } catch {
    return false; // neither key nor signature: bytes of another length
  }
}

const fromBase64 = (text: string): Uint8Array =>
  Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));

/** Whether an event is in the ledger of its head as it stands here, and what it is. */
export function checkEvent({ event, entry, position, path, head }: Proof): CheckedEvent {
  const says = readEntry(entry);
  return {
    event,
    kind: String(says.kind ?? ''),
    document: String(says.document ?? ''),
    happenedAt: String(says.happened_at ?? ''),
    holds: says.id === event && isIn(entry, position, path, head)
  };
}

function isIn(entry: string, position: number, path: string[], head: SignedHead): boolean {
  try {
    const leaf = leafHash(utf8ToBytes(entry));
    return includes(leaf, position, head.size, path.map(hexToBytes), hexToBytes(head.root));
  } catch {
    return false; // a hash that is none
  }
}

function readEntry(entry: string): Record<string, unknown> {
  try {
    const says: unknown = JSON.parse(entry);
    return isObject(says) ? says : {};
  } catch {
    return {};
  }
}

/** The first letters of a key, to compare by eye or on the telephone. */
export const keyMark = (key: string): string =>
  bytesToHex(fromBase64(key).slice(0, 8)).replace(/(.{4})(?=.)/g, '$1 ');
