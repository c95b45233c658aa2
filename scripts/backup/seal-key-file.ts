import { join } from 'node:path';

/** The key heads are signed with, by the settings; the heads that are kept lie beside it. */
export const sealKeyFileOf = (data: string, env: NodeJS.ProcessEnv = process.env): string =>
  env.EARMARK_SEAL_KEY || join(data, 'seal-key.pem');
