import { z } from 'zod';
import { RecordsQuery } from '../../exchange/records/asked.ts';
import { EpcisEventsQuery } from '../../exchange/schemas.ts';
import { SecurityQuery } from '../../people/schemas.ts';
import {
  Checkpoint,
  CheckpointQuery,
  Feed,
  FeedQuery,
  Proof,
  ProofOfMany,
  ProofQuery
} from '../../seal/schemas.ts';
import { anything, type Operation } from './operation.ts';

/** The ledger as other systems read it: events, records, proofs. */
export const EXCHANGE_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/events/{id}/epcis',
    summary:
      'An event as an EPCIS 2.0 document; of a shipment the notice with what its cartons hold',
    answer: anything
  },
  {
    method: 'get',
    path: '/feed',
    summary:
      'Every event in the order of the ledger, for other systems; none that commits late is skipped',
    query: FeedQuery,
    answer: Feed
  },
  {
    method: 'get',
    path: '/records/{kind}',
    summary:
      'What an auditor asks for (kind: shipped, changes, gains, overruled, rights, exports), the latest first',
    query: RecordsQuery,
    answer: z.object({ rows: z.array(z.record(z.string(), z.string())), total: z.int() })
  },
  {
    method: 'get',
    path: '/security-log',
    summary: 'Who came in, was refused, changed rules or took files away; the latest first',
    query: SecurityQuery,
    answer: z.object({
      lines: z.array(
        z.object({
          id: z.number(),
          at: z.string(),
          kind: z.string(),
          who: z.string().nullable(),
          login: z.string(),
          token: z.string().nullable(),
          address: z.string(),
          about: z.string()
        })
      )
    })
  },
  {
    method: 'get',
    path: '/ledger/proof',
    summary:
      'What shows that an event, or all that a trace, a recall or a certificate rests on, is in the sealed ledger, unaltered',
    query: ProofQuery,
    answer: z.union([Proof, ProofOfMany])
  },
  {
    method: 'get',
    path: '/ledger/checkpoint',
    summary: 'The signed head of the sealed ledger, and that it goes on from an earlier one',
    query: CheckpointQuery,
    answer: Checkpoint
  },
  {
    method: 'post',
    path: '/epcis/capture',
    summary: 'Capture an EPCIS 2.0 document of another firm; what was sent before changes nothing',
    body: anything,
    answer: anything
  },
  {
    method: 'get',
    path: '/epcis/events',
    summary:
      'Events by the standard’s parameters, ours and captured ones, as an EPCISQueryDocument; the header Link names the next page',
    query: EpcisEventsQuery,
    answer: anything
  }
];
