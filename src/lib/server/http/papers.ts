import { inTurns } from '../kernel/in-turns.ts';
import { Problem } from '../kernel/problem.ts';
import { answering } from './answer.ts';

/** Routes that answer with a paper. */
const PAPERS: ReadonlySet<string> = new Set([
  '/api/v1/certificates/[number]',
  '/api/v1/claims/[number]/letter',
  '/api/v1/counts/[document]/sheet',
  '/api/v1/events/[id]/delivery-note',
  '/api/v1/events/[id]/goods-received-note',
  '/api/v1/labels/[id]',
  '/api/v1/marks/[id]/as-built',
  '/api/v1/orders/purchase/[number]/confirmation',
  '/api/v1/orders/sales/[number]/pick-list',
  '/api/v1/orders/work/[number]/traveler',
  '/api/v1/recalls/[number]/file',
  '/api/v1/recalls/[number]/notices/[id]',
  '/api/v1/service-jobs/[number]/receipt',
  '/api/v1/transfers/[document]/note',
  '/api/v1/units/[sscc]/label'
]);

const MOST_WAITING = 30;
const turn = inTurns(MOST_WAITING, () => {
  const message = 'Many papers are being made just now. Wait a moment and ask for it again.';
  return new Problem(503, 'Others come first', [{ code: 'server.busy', path: '', message }]);
});

export const isPaper = (routeId: string, method: string): boolean =>
  method === 'GET' && PAPERS.has(routeId);

/**
 * One paper after the other: what goes onto it is read where requests are answered, and of forty at
 * once the rows of all would hold everybody up.
 */
export const paperInTurn = (make: () => Promise<Response>): Promise<Response> =>
  answering(() => turn(make));
