import { AsBuiltQuery } from '../../making/schemas.ts';
import {
  CommonSourceQuestion,
  FollowUpsQuery,
  Trace,
  TraceQuery,
  TraceStart
} from '../../trace/schemas.ts';
import { anything, type Operation } from './operation.ts';

/** What was made of what, and where it went. */
export const TRACE_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/marks/{id}/as-built',
    summary:
      'What a mark was built of, or what is in it now or was on a day, through all levels, compared with its bill; with format=pdf as a document',
    query: AsBuiltQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/marks/{id}/follow-ups',
    summary: 'Dates downstream that were computed from one to be amended, and what they would be',
    query: FollowUpsQuery,
    answer: anything
  },
  {
    method: 'post',
    path: '/trace-roots',
    summary:
      'What a starting point of a trace means: numbers, a document, a partner, a place or station and time, a product and range; kept as a set',
    body: TraceStart,
    answer: anything
  },
  {
    method: 'post',
    path: '/common-sources',
    summary: 'What troubled units share upstream, ranked by how surprising the sharing is',
    body: CommonSourceQuestion,
    answer: anything
  },
  {
    method: 'get',
    path: '/trace-files/{id}',
    summary:
      'A trace of a mark, or of a kept set as s12, as a file: format=csv, xlsx, json or epcis',
    answer: anything
  },
  {
    method: 'get',
    path: '/trace',
    summary: 'The whole trace of one mark',
    query: TraceQuery,
    answer: Trace
  }
];
