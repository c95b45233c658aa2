import type { Right } from './rights.ts';

/** What a signature says of who gives it. */
export const MEANINGS = ['released by', 'approved by', 'checked by'] as const;
export type Meaning = (typeof MEANINGS)[number];

/**
 * The acts a plan may ask a signature for: what signing them means, the words of a plan's sentence,
 * and the right whoever signs must have. Two are signed whatever a plan says: a test by whoever
 * checked it, a recall's case by two.
 */
export const SIGNED_ACTS = {
  release: {
    means: 'released by',
    says: 'goods are released, or leave quarantine',
    right: 'decide.quality'
  },
  certificate: { means: 'approved by', says: 'a certificate is issued', right: 'certify' },
  count: { means: 'approved by', says: 'a count is approved', right: 'book.correct' },
  amendment: {
    means: 'approved by',
    says: 'a number, an expiry or a day of making is amended',
    right: 'amend'
  },
  recall: { means: 'approved by', says: 'the scope of a recall is decided', right: 'recall' }
} as const satisfies Record<string, { means: Meaning; says: string; right: Right }>;
export type SignedAct = keyof typeof SIGNED_ACTS;
export const ACTS = Object.keys(SIGNED_ACTS) as SignedAct[];

/** Who must sign, the least first. */
export const SIGNERS = ['nobody', 'whoever does it', 'a second person'] as const;
export type Signer = (typeof SIGNERS)[number];

/** Who signs which act; nobody where a plan says nothing. */
export type Signers = Readonly<Partial<Record<SignedAct, Signer>>>;

interface Signing {
  signers?: Signers;
}

/** Who signs an act on several products: the most that one of their plans asks. */
export const signerOf = (plans: readonly Signing[], act: SignedAct): Signer =>
  SIGNERS[Math.max(0, ...plans.map((plan) => SIGNERS.indexOf(plan.signers?.[act] ?? 'nobody')))]!;

/** A signature that was given for one act on one document, and waits for it. */
export interface Signature {
  id: number;
  act: SignedAct;
  /** Whether somebody else gave it than who does the act. */
  second: boolean;
}

/** What a screen needs to ask for the signature. */
export interface SignatureAsked {
  act: SignedAct;
  signer: Exclude<Signer, 'nobody'>;
}

/** Whether a signature is what is asked; one of another act never is. */
const isSigned = ({ act, signer }: SignatureAsked, given: Signature): boolean =>
  given.act === act && (signer === 'whoever does it' || given.second);

/** The one of these signatures that is what is asked; null where none is. */
export const signatureFor = (
  asked: SignatureAsked,
  given: readonly Signature[]
): Signature | null => given.find((one) => isSigned(asked, one)) ?? null;

/** What asks for the signature, in a sentence. */
export function sayAsked({ act, signer }: SignatureAsked): string {
  const { means, says } = SIGNED_ACTS[act];
  const who = signer === 'a second person' ? 'a second person' : 'you';
  return `Where ${says}, the plan asks for a signature of ${who}: ${means}.`;
}
