import { BOOKING_KINDS } from '../../kinds.ts';
import { Verdict } from '../../ledger/schemas.ts';
import { Approval, NewApproval, NewSignature, SignatureGiven } from '../../people/schemas.ts';
import { anything, type Operation } from './operation.ts';

/** What a second person answers for, and what a booking would be told. */
export const PEOPLE_OPERATIONS: readonly Operation[] = [
  {
    method: 'post',
    path: '/approvals',
    summary: 'A second person lets faults of a booking pass, with their password',
    body: NewApproval,
    answer: Approval
  },
  {
    method: 'post',
    path: '/signatures',
    summary: 'Sign an act just before it is done, with the password of whoever signs',
    body: NewSignature,
    answer: SignatureGiven
  },
  {
    method: 'post',
    path: '/checks/{kind}',
    summary: `The verdict on a booking without booking it (kind: ${BOOKING_KINDS.map(({ path }) => path).join(', ')})`,
    body: anything,
    answer: Verdict
  }
];
