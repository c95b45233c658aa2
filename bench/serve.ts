import { join } from 'node:path';

/** The application as `npm start` serves it, apart from everything else. */
export interface Served {
  port: number;
  /** Its data folder. */
  folder: string;
  stop: () => Promise<void>;
}

/** Serves the demo, or what is in a folder. @param token what may do everything there */
export async function serve(given: { token: string; folder?: string }): Promise<Served> {
  const { serveApart } = (await import(
    /* @vite-ignore */ join(process.cwd(), 'scripts/serve-apart.mjs')
  )) as { serveApart: (given: object) => Promise<Served> };
  return serveApart(given);
}
