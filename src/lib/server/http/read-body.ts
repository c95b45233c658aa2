import type { z } from 'zod';
import { shown } from '../../core/numbers/number.ts';
import { letOthersIn } from '../kernel/let-others-in.ts';
import { Problem } from '../kernel/problem.ts';
import { MOST_BYTES, mayBeLarge, readJson } from './read-json.ts';

/** `["lines", 2, "product"]` → `lines[2].product`, the form all paths of an answer have. */
export const sayKeys = (keys: readonly PropertyKey[]): string =>
  keys
    .map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`))
    .join('')
    .replace(/^\./, '');

/**
 * Reads and checks a JSON body.
 * @param most bytes that are taken
 * @throws Problem 415, 413, 400 naming what is wrong and where
 */
export async function readBody<T>(
  request: Request,
  schema: z.ZodType<T>,
  most = MOST_BYTES
): Promise<T> {
  checkIsJson(request);
  const body = checked(await readJson(request, most), schema);
  if (mayBeLarge(request)) await letOthersIn();
  return body;
}

/** @throws Problem 415 where a body is not said to be JSON */
export function checkIsJson(request: Request): void {
  const type = request.headers.get('content-type') ?? '';
  if (!/^application\/([\w.-]+\+)?json\b/i.test(type)) {
    throw new Problem(415, 'The body must be JSON', [
      {
        code: 'request.malformed',
        path: '',
        message: `It was sent as ${shown(type || 'nothing named')}. Send it with the header Content-Type: application/json.`
      }
    ]);
  }
}

/** Checks query parameters. @throws Problem 400 */
export const readQuery = <T>(url: URL, schema: z.ZodType<T>): T =>
  checked(Object.fromEntries(url.searchParams), schema);

/** What is wrong may name as many keys as were sent; a refusal is short. */
const bounded = (message: string): string =>
  message.length > 300 ? `${message.slice(0, 300)}…` : message;

function checked<T>(value: unknown, schema: z.ZodType<T>): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const errors = result.error.issues.slice(0, 100).map((issue) => ({
    code: 'request.malformed',
    path: sayKeys(issue.path),
    message: `${bounded(issue.message)}.`
  }));
  throw new Problem(
    400,
    'The request does not have the form it should',
    errors,
    'See /api/v1/openapi.json for the form of every request.'
  );
}

const LATEST = 5 * 60_000;

/** @throws Problem 400 where `at` lies in the future */
export function checkInstant(at: string | undefined): void {
  if (at !== undefined && Date.parse(at) > Date.now() + LATEST) {
    throw new Problem(400, 'The time lies in the future', [
      {
        code: 'request.malformed',
        path: 'at',
        number: at,
        message:
          'An event can only be booked once it has happened. Check the date and the time zone, or leave "at" out for now.'
      }
    ]);
  }
}

/** @throws Problem 400 where the key is missing or no use */
export function idempotencyKey(request: Request): string {
  const key = request.headers.get('idempotency-key')?.trim() ?? '';
  if (key.length >= 1 && key.length <= 200) return key;
  throw new Problem(
    400,
    key === '' ? 'The idempotency key is missing' : 'The idempotency key is too long',
    [
      {
        code: 'key.missing',
        path: 'Idempotency-Key',
        message:
          'Send a header Idempotency-Key of 1 to 200 characters, new for each booking, so that a repeated sending books once.'
      }
    ]
  );
}
