import { expect, test } from 'vitest';
import { databaseProblem } from './database-problem.ts';

test.each([
  [{ code: 'ECONNREFUSED' }, 503],
  [{ code: '57014' }, 503],
  [{ code: '22003' }, 400],
  [{ code: '22021' }, 400],
  [{ code: '23505', constraint_name: 'route_code' }, 409],
  [{ code: '40P01' }, 409],
  [{ code: '23514', constraint_name: 'code_text_check' }, 400],
  [{ code: '23514', constraint_name: 'never_negative' }, null],
  [{ code: '42601' }, null],
  [new Error('ours'), null],
  [{}, null]
])('%o is answered with %s', (error, status) => {
  expect(databaseProblem(error)?.status ?? null).toBe(status);
});
