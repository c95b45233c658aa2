import { randomBytes } from 'node:crypto';
import { Agent, request as ask } from 'node:http';

/** Asks Earmark's API, each request under a key of its own; fails where it is refused. */
export type Api = (method: string, path: string, body?: object) => Promise<Record<string, unknown>>;

/** The API of who serves on a port, over connections that are kept. @param token what may do everything there */
export function apiOf(port: number, token: string): Api {
  const agent = new Agent({ keepAlive: true });
  return (method, path, body) =>
    new Promise((done, fail) => {
      const headers = {
        authorization: `Bearer ${token}`,
        'content-type': 'application/json',
        'idempotency-key': randomBytes(9).toString('base64url')
      };
      const options = { host: '127.0.0.1', port, method, agent, headers, path: `/api/v1/${path}` };
      const sent = ask(options, (reply) => {
        let text = '';
        reply.setEncoding('utf8').on('data', (chunk) => (text += chunk));
        reply.on('end', () =>
          reply.statusCode! < 300 ? done(JSON.parse(text || '{}')) : fail(new Error(text))
        );
      });
      sent.on('error', fail).end(body && JSON.stringify(body));
    });
}
