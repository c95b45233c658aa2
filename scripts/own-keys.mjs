// The keys of an Earmark, each made once in a folder, for its owner only.
import { generateKeyPairSync, randomBytes } from 'node:crypto';
import { existsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

function keyFile(folder, name, make) {
  const file = join(folder, name);
  if (!existsSync(file)) writeFileSync(file, make(), { mode: 0o600 });
  return file;
}

/** The file with the key the ledger's heads are signed with. */
export const sealKeyFile = (folder) =>
  keyFile(folder, 'seal-key.pem', () =>
    generateKeyPairSync('ed25519').privateKey.export({ type: 'pkcs8', format: 'pem' })
  );

/** The file with the key that secrets of time codes are kept locked with. */
export const factorKeyFile = (folder) =>
  keyFile(folder, 'factor-key', () => randomBytes(32).toString('hex'));
