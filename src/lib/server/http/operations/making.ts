import { Route } from '../../catalogue/schemas.ts';
import { BenchScan, NamedOutputs, StationRead, UnnamedOutputs } from '../../making/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Work orders, stations and the bench. */
export const MAKING_OPERATIONS: readonly Operation[] = [
  {
    method: 'put',
    path: '/orders/work/{number}/outputs',
    summary: 'Name outputs of a work order ahead, typed or by the numbering scheme',
    body: NamedOutputs,
    answer: anything
  },
  {
    method: 'delete',
    path: '/orders/work/{number}/outputs',
    summary: 'Take names back that were not made yet',
    body: UnnamedOutputs,
    answer: anything
  },
  {
    method: 'post',
    path: '/orders/work/{number}/scans',
    summary: 'What a scan at the bench means for the unit in hand; nothing is written',
    body: BenchScan,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/work/{number}/traveler',
    summary: 'The traveler of a work order, as PDF',
    answer: file('application/pdf')
  },
  { method: 'get', path: '/routes/{code}', summary: 'A route of stations', answer: anything },
  {
    method: 'put',
    path: '/routes/{code}',
    summary: 'Set a route of stations up, or change it',
    body: Route,
    answer: anything
  },
  {
    method: 'post',
    path: '/station-reads',
    summary:
      'Read tags at a station: each moves its unit on one step, or holds, releases, reworks, sends back or only looks',
    body: StationRead,
    answer: anything
  }
];
