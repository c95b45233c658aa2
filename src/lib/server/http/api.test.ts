import { describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { Problem } from '../kernel/problem.ts';
import { answering, jsonResponse } from './answer.ts';
import { openApi } from './openapi.ts';
import { checkInstant, idempotencyKey, readBody, readQuery, sayKeys } from './read-body.ts';
import { Build } from '../making/schemas.ts';
import { MarksQuery } from '../stock/schemas.ts';
import { Receipt } from '../receiving/schemas.ts';
import { RecallReminding } from '../recall/schemas.ts';

const post = (
  body: string,
  headers: Record<string, string> = { 'content-type': 'application/json' }
) => new Request('http://localhost/', { method: 'POST', body, headers });
const refusal = async (run: () => unknown): Promise<Problem> => {
  try {
    await run();
  } catch (error) {
    return error as Problem;
  }
  throw new Error('It was taken.');
};

describe('reading a request', () => {
  it('names every wrong place by its path', async () => {
    const problem = await refusal(() =>
      readBody(
        post('{"document":"","supplier":"S","lines":[{"product":"P","place":"X","quantity":{}}]}'),
        Receipt
      )
    );
    expect([problem.status, problem.errors.map((error) => error.path)]).toEqual([
      400,
      ['document', 'lines[0].quantity']
    ]);
    expect(sayKeys(['groups', 0, 'inputs', 12, 'serial'])).toBe('groups[0].inputs[12].serial');
  });

  it('takes quantities as strings or numbers, and nothing it does not know', async () => {
    const build = (quantity: unknown, more = {}) =>
      readBody(
        post(
          JSON.stringify({
            document: 'B',
            place: 'L',
            groups: [{ outputs: [{ product: 'P', quantity, ...more }], inputs: [] }]
          })
        ),
        Build
      );
    expect((await build('0.10')).groups[0]!.outputs[0]!.quantity).toBe('0.10');
    expect((await build(0.25)).groups[0]!.outputs[0]!.quantity).toBe('0.25');
    expect((await refusal(() => build(1, { colour: 'red' }))).errors[0]!.message).toContain(
      'colour'
    );
  });

  it('refuses what is not JSON, or not said to be', async () => {
    expect((await refusal(() => readBody(post('{'), Receipt))).status).toBe(400);
    expect(
      (
        await refusal(() =>
          readBody(post('a=b', { 'content-type': 'application/x-www-form-urlencoded' }), Receipt)
        )
      ).status
    ).toBe(415);
    expect(
      (
        await readBody(
          post('{"a":1}', { 'content-type': 'application/vnd.earmark+json; charset=utf-8' }),
          z.object({ a: z.number() })
        )
      ).a
    ).toBe(1);
  });

  it('names what was typed for a whole number and is none', async () => {
    const days = (value: unknown) =>
      refusal(() => readBody(post(JSON.stringify({ days: value })), RecallReminding));
    for (const typed of ['a week', 1.5, 0, 366])
      expect((await days(typed)).errors, String(typed)).toMatchObject([
        { path: 'days', message: `“${typed}” is no whole number from 1 to 365.` }
      ]);
    expect(await readBody(post('{"days":null}'), RecallReminding)).toEqual({ days: null });
  });

  it('bounds a query', async () => {
    const query = (text: string) => readQuery(new URL(`http://localhost/?${text}`), MarksQuery);
    expect(query('limit=5&q=x')).toEqual({ limit: 5, q: 'x' });
    expect(query('').limit).toBe(100);
    expect((await refusal(() => query('limit=100000'))).errors[0]!.path).toBe('limit');
  });

  it('needs an idempotency key, and a time that has been', async () => {
    expect(idempotencyKey(post('', { 'idempotency-key': ' k ' }))).toBe('k');
    expect((await refusal(() => idempotencyKey(post('')))).errors[0]!.code).toBe('key.missing');
    expect(
      (await refusal(() => idempotencyKey(post('', { 'idempotency-key': 'x'.repeat(201) })))).status
    ).toBe(400);
    checkInstant(undefined);
    checkInstant(new Date().toISOString());
    expect(
      (await refusal(() => checkInstant(new Date(Date.now() + 3_600_000).toISOString()))).errors[0]!
        .path
    ).toBe('at');
  });
});

describe('answering', () => {
  const body = async (response: Response) => ({
    status: response.status,
    type: response.headers.get('content-type'),
    body: await response.json()
  });
  it('gives a problem as RFC 9457 has it, and asks for a token where one is missing', async () => {
    const response = await answering(async () => {
      throw new Problem(401, 'Sign in first', [{ code: 'right.missing', path: '', message: 'x.' }]);
    });
    expect(response.headers.get('www-authenticate')).toBe('Bearer');
    expect(await body(response)).toEqual({
      status: 401,
      type: 'application/problem+json',
      body: {
        type: 'about:blank',
        title: 'Sign in first',
        status: 401,
        errors: [{ code: 'right.missing', path: '', message: 'x.' }]
      }
    });
  });
  it('says that the database does not answer, without a word of its own about it', async () => {
    const { status, body: problem } = await body(
      await answering(async () => {
        throw Object.assign(new Error('connect ECONNREFUSED 127.0.0.1:54329'), {
          code: 'ECONNREFUSED'
        });
      })
    );
    expect([status, JSON.stringify(problem).includes('54329')]).toEqual([503, false]);
  });
  it('keeps what went wrong to the log and gives a reference to it', async () => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => {});
    const { status, body: problem } = await body(
      await answering(async () => {
        throw new Error('secret of the machine');
      })
    );
    const [, reference] = /reference (\w+)/.exec(problem.errors[0].message)!;
    expect([status, JSON.stringify(problem).includes('secret')]).toEqual([500, false]);
    expect(log.mock.calls[0]![0]).toBe(`[${reference}]`);
    log.mockRestore();
  });
  it('lets an answer be', async () =>
    expect(await body(await answering(async () => jsonResponse({ a: 1 }, 201)))).toEqual({
      status: 201,
      type: 'application/json',
      body: { a: 1 }
    }));
});

describe('the API document', () => {
  const document = openApi() as {
    paths: Record<
      string,
      Record<
        string,
        { parameters: { name: string; in: string; required: boolean }[]; responses: object }
      >
    >;
    components: { schemas: Record<string, object> };
  };
  it('asks every POST that books for its key', () => {
    for (const [path, operations] of Object.entries(document.paths)) {
      // A check books nothing, and an import keeps each record under its own code, so that sending
      // it twice changes nothing; a label printed twice is two labels.
      // A scan asks; the same tag read again moves nothing twice; a starting point asked twice
      // means the same; a captured event has an identity of its own; of an approval asked for
      // twice the booking uses one, and the other lapses; a count sent twice is the same count.
      // Accounts and sessions book nothing. A hook made twice is two, seen in the list and ended;
      // a message sent again carries the id it had.
      if (
        !operations.post ||
        /^\/(account|sign-in|session)\b/.test(path) ||
        path.endsWith('/scans') ||
        path.endsWith('/signature') ||
        path === '/certificates' ||
        path === '/approvals' ||
        path === '/signatures' ||
        path === '/counts' ||
        path === '/lying' ||
        path.startsWith('/hooks') ||
        path === '/station-reads' ||
        path === '/trace-roots' ||
        path === '/epcis/capture' ||
        path === '/common-sources' ||
        path.startsWith('/checks') ||
        path.startsWith('/imports') ||
        path === '/labels'
      )
        continue;
      expect(
        operations.post.parameters.some(
          (parameter) => parameter.name === 'Idempotency-Key' && parameter.required
        ),
        path
      ).toBe(true);
      expect(Object.keys(operations.post.responses)).toEqual(
        expect.arrayContaining(['200', '201', '422'])
      );
    }
  });
  it('knows its parameters and has every schema it refers to', () => {
    expect(
      document.paths['/trace']!.get!.parameters.map((parameter) => [
        parameter.name,
        parameter.required
      ])
    ).toEqual([
      ['product', true],
      ['lot', false],
      ['serial', false],
      ['direction', true],
      ['until', false],
      ['without', false],
      ['skip', false],
      ['from', false],
      ['clocks', false]
    ]);
    for (const [, name] of JSON.stringify(document).matchAll(/#\/components\/schemas\/(\w+)/g))
      expect(document.components.schemas).toHaveProperty(name!);
  });
});
