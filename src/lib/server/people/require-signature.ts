import { signatureFault } from '../../core/ledger/tell-signature.ts';
import {
  signatureFor,
  SIGNERS,
  type Signature,
  type SignedAct
} from '../../core/people/signing.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { readSignatures } from './signatures.ts';

interface Act {
  act: SignedAct;
  /** The ids of the lots and serials it is about: their plans say who signs. */
  marks: readonly number[];
  /** What it is signed for. */
  document: string;
  signature?: string | undefined;
}

/**
 * The signature of an act that books nothing, where the plans of what it is about ask for one.
 * @returns the signature to be tied to it; null where none is asked
 * @throws Problem 422 where it is asked and not given
 */
export async function requireSignature(
  tx: Tx,
  actor: Actor,
  { act, marks, document, signature }: Act
): Promise<Signature | null> {
  const [asked] = await tx<[{ signer: number }]>`
    SELECT signature_asked(
      (
        SELECT array_agg(DISTINCT product_id)
        FROM mark
        WHERE id = ANY(${marks as number[]})
      ),
      ${act}
    ) AS signer
  `;
  const signer = SIGNERS[asked.signer] ?? 'nobody';
  if (signer === 'nobody') return null;
  const given = await readSignatures(tx, actor, { document, signature }, true);
  const signed = signatureFor({ act, signer }, given);
  if (signed) return signed;
  const fault = signatureFault({ act, signer }, document);
  throw new Problem(422, 'It is not signed', [fault], 'Nothing was changed.');
}
