import { randomBytes } from 'node:crypto';
import { Agent, request as ask } from 'node:http';

/** How a request was answered; 0 where the connection ended without an answer. */
export interface Answered {
  status: number;
  body: Buffer;
}

/** Who sends: with a token that may do everything, with a cookie, or as nobody. */
export interface Attacker {
  send: (method: string, path: string, body?: object | string | Uint8Array) => Promise<Answered>;
  /** The same with no token. */
  asNobody: (
    method: string,
    path: string,
    body?: object | string | Uint8Array
  ) => Promise<Answered>;
  /** What must be taken, so that an attack finds something. */
  taken: (method: string, path: string, body: object) => Promise<Record<string, unknown>>;
}

const LONGEST_MS = 120_000;

export function attackerAt(port: number, token: string): Attacker {
  const agent = new Agent({ keepAlive: true, maxSockets: 300 });
  const send =
    (headers: Record<string, string>) =>
    (method: string, path: string, body?: object | string | Uint8Array): Promise<Answered> =>
      new Promise((done) => {
        const bytes = bytesOf(body);
        const options = {
          ...{ host: '127.0.0.1', port, method, path, agent, timeout: LONGEST_MS },
          headers: {
            ...headers,
            'idempotency-key': randomBytes(9).toString('base64url'),
            'content-type':
              body instanceof Uint8Array ? 'application/octet-stream' : 'application/json',
            'content-length': String(bytes.length)
          }
        };
        const sent = ask(options, (reply) => {
          const pieces: Buffer[] = [];
          reply.on('data', (piece: Buffer) => pieces.push(piece));
          reply.on('end', () => done({ status: reply.statusCode!, body: Buffer.concat(pieces) }));
          reply.on('error', () => done({ status: 0, body: Buffer.alloc(0) }));
        });
        sent.on('timeout', () => sent.destroy(new Error('timeout')));
        sent.on('error', () => done({ status: 0, body: Buffer.alloc(0) }));
        sent.end(bytes);
      });
  const known = send({ authorization: `Bearer ${token}` });
  return {
    send: known,
    asNobody: send({}),
    taken: async (method, path, body) => {
      const { status, body: said } = await known(method, `/api/v1/${path}`, body);
      if (status >= 300)
        throw new Error(`${method} ${path}: ${status} ${said.toString().slice(0, 400)}`);
      return JSON.parse(said.toString() || '{}') as Record<string, unknown>;
    }
  };
}

function bytesOf(body: object | string | Uint8Array | undefined): Buffer {
  if (body === undefined) return Buffer.alloc(0);
  if (body instanceof Uint8Array) return Buffer.from(body);
  return Buffer.from(typeof body === 'string' ? body : JSON.stringify(body));
}
