import { createPrivateKey } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sealKeyOf } from '../src/lib/server/seal/seal-key.ts';

/** The key heads are signed with, by the settings; the heads that are kept lie beside it. */
export const sealKeyFileOf = (data: string, env: NodeJS.ProcessEnv = process.env): string =>
  env.EARMARK_SEAL_KEY || join(data, 'seal-key.pem');

/** The public half of the key in a file, in base64; undefined where there is no file. */
export const publicKeyIn = (file: string): string | undefined =>
  existsSync(file)
    ? sealKeyOf(createPrivateKey(readFileSync(file))).public.toString('base64')
    : undefined;
