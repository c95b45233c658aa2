import { Agent, request as ask } from 'node:http';
import fc from 'fast-check';
import { expect, test } from './test.ts';
import { TOKEN } from './company.ts';
import { valuesOf, type Schema } from './fuzz-values.ts';

// Every operation of the API asked with what its own schema takes, and worse: no answer of 500, no
// hang, no connection that is dead afterwards. EARMARK_FUZZ_SECONDS and EARMARK_FUZZ_SEED go further.
const BODIES = 300;
const SECONDS = Number(process.env.EARMARK_FUZZ_SECONDS ?? 60);
const SEED = Number(process.env.EARMARK_FUZZ_SEED ?? 42);
const AT_ONCE = 8;
const HANGS_AFTER_MS = 25_000;

interface Operation {
  method: string;
  path: string;
  parameters: { name: string; in: string; schema?: Schema }[];
  body: Schema | undefined;
}
interface Document {
  paths: Record<
    string,
    Record<
      string,
      {
        parameters?: Operation['parameters'];
        requestBody?: { content: Record<string, { schema?: Schema }> };
      }
    >
  >;
  components: { schemas: Record<string, Schema> };
}
interface Asked {
  path: string;
  headers: Record<string, string>;
  body: string | undefined;
}
interface Answered {
  status: number | string;
  text: string;
}

const operationsOf = ({ paths }: Document): Operation[] =>
  Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, one]) => ({
      method: method.toUpperCase(),
      path,
      parameters: one.parameters ?? [],
      body: one.requestBody?.content['application/json']?.schema
    }))
  );

/** Requests an operation may be asked with. */
function requestsOf(operation: Operation, named: Document['components']['schemas']) {
  const { parameters, path } = operation;
  // No server takes an address of any length: what is longer never comes to ours.
  const value = (schema?: Schema) =>
    valuesOf(schema, named).map((one) => String(one).slice(0, 400));
  const part = (where: string) =>
    fc.record(
      Object.fromEntries(
        parameters.filter((one) => one.in === where).map((one) => [one.name, value(one.schema)])
      ),
      where === 'query' ? { requiredKeys: [] } : {}
    );
  const body = operation.body ? valuesOf(operation.body, named) : fc.constant(undefined);
  return fc
    .record({ inPath: part('path'), query: part('query'), body, key: fc.uuid() })
    .map(({ inPath, query, body: given, key }): Asked => ({
      path: `/api/v1${path.replace(/\{(\w+)\}/g, (_, name: string) =>
        escaped((inPath as Record<string, string>)[name] ?? 'x')
      )}?${new URLSearchParams(query as Record<string, string>).toString()}`,
      headers: {
        authorization: `Bearer ${TOKEN}`,
        'idempotency-key': key,
        ...(given === undefined ? {} : { 'content-type': 'application/json' })
      },
      body: given === undefined ? undefined : JSON.stringify(given)
    }));
}
/** As far as it can be written in an address at all. */
const escaped = (text: string): string => encodeURIComponent(text.toWellFormed()) || 'x';

function sender(address: string) {
  const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE });
  const { hostname, port } = new URL(address);
  return (method: string, { path, headers, body }: Asked): Promise<Answered> =>
    new Promise((done) => {
      const length = body === undefined ? {} : { 'content-length': Buffer.byteLength(body) };
      const options = { hostname, port, method, path, agent, headers: { ...headers, ...length } };
      const sent = ask(options, (reply) => {
        let text = '';
        reply.setEncoding('utf8').on('data', (part: string) => {
          // Of what is taken nothing is looked at; a refusal is read as a whole.
          if (reply.statusCode! >= 400) text += part;
        });
        reply.on('end', () => done({ status: reply.statusCode!, text }));
        reply.on('error', (error) => done({ status: error.message, text: '' }));
      });
      sent.setTimeout(HANGS_AFTER_MS, () => sent.destroy(new Error('hangs')));
      sent.on('error', (error) => done({ status: error.message, text: '' }));
      sent.end(body);
    });
}

/** What was asked and answered, cut to what tells it. */
const sayBad = (method: string, { path, body = '' }: Asked, { status, text }: Answered): string =>
  `${method} ${path.slice(0, 300)} ${body.slice(0, 600)} → ${status} ${text.slice(0, 300)}`;

/** Whether an answer is one of ours: never 500, a refusal in the form of a problem document. */
function isGood({ status, text }: Answered): boolean {
  if (typeof status === 'string' || status >= 500) return false;
  if (status < 400) return true;
  try {
    return typeof (JSON.parse(text) as { title: unknown }).title === 'string';
  } catch {
    return false;
  }
}

test('no operation of the API answers 500, hangs or leaves its connection dead, whatever it is asked', async ({
  served
}) => {
  test.setTimeout((SECONDS + 120) * 1000);
  const send = sender(served);
  const document = (await (await fetch(`${served}/api/v1/openapi.json`)).json()) as Document;
  const operations = operationsOf(document);
  const until = Date.now() + SECONDS * 1000;
  const bad: string[] = [];
  let asked = 0;
  for (const [at, operation] of operations.entries()) {
    // What is left of the time is shared evenly among the operations that are left.
    const share = (until - Date.now()) / (operations.length - at);
    const ends = Date.now() + share;
    const all = fc.sample(requestsOf(operation, document.components.schemas), {
      ...{ seed: SEED + at, numRuns: BODIES }
    });
    while (all.length > 0 && Date.now() < ends) {
      const some = all.splice(0, AT_ONCE);
      const answers = await Promise.all(some.map((one) => send(operation.method, one)));
      asked += some.length;
      answers.forEach((answer, n) => {
        if (!isGood(answer)) bad.push(sayBad(operation.method, some[n]!, answer));
      });
    }
    const health = { path: '/api/health', headers: {}, body: undefined };
    for (let n = 0; n < AT_ONCE; n++) {
      const { status } = await send('GET', health);
      if (status !== 200) bad.push(`after ${operation.method} ${operation.path}: health ${status}`);
    }
  }
  console.log(`${asked} requests to ${operations.length} operations, seed ${SEED}`);
  expect(bad.slice(0, 40), `${bad.length} bad answers`).toEqual([]);
});

test('what is refused before its body is read leaves the connection to the next one', async ({
  served
}) => {
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const { hostname, port } = new URL(served);
  const answer = (method: string, path: string, headers: object, body?: Buffer) =>
    new Promise<number | string>((done) => {
      const options = { hostname, port, method, path, agent, headers: { ...headers } };
      const sent = ask(options, (reply) => reply.resume().on('end', () => done(reply.statusCode!)));
      sent.setTimeout(HANGS_AFTER_MS, () => sent.destroy(new Error('hangs')));
      sent.on('error', (error) => done(error.message));
      sent.end(body);
    });
  const json = { 'content-type': 'application/json' };
  const known = { authorization: `Bearer ${TOKEN}` };
  const refusals: [number, string, object][] = [
    [401, '/api/v1/receipts', json],
    [404, '/api/v1/nothing-there', { ...known, ...json }],
    [405, '/api/v1/products', { ...known, ...json }],
    [415, '/api/v1/receipts', { ...known, 'content-type': 'text/plain', 'idempotency-key': 'x' }],
    [400, '/api/v1/receipts', { ...known, ...json }],
    [413, '/api/v1/sign-in', json]
  ];
  const body = Buffer.alloc(200_000, '[');
  for (const [status, path, headers] of refusals) {
    expect([path, await answer('POST', path, headers, body)]).toEqual([path, status]);
    expect([path, await answer('GET', '/api/health', {})]).toEqual([path, 200]);
  }
});
