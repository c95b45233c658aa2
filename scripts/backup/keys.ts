import { copyFileSync, existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Repository } from './repository.ts';

/** What of a data folder is in no database, and without which one is not to be opened or proved. */
const KEYS = ['secret.json', 'seal-key.pem', 'seal-heads.jsonl', 'factor-key'];

const keysFolder = ({ folder }: Repository): string => join(folder, 'keys');

/** Copies the keys beside the backups. */
export function keepKeys(repository: Repository): void {
  const folder = keysFolder(repository);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  for (const name of KEYS) {
    const from = join(repository.data, name);
    if (existsSync(from)) copyFileSync(from, join(folder, name));
  }
}

/** Puts back what the data folder lacks. @returns the names of what was put back */
export function putBackKeys(repository: Repository): string[] {
  const missing = KEYS.filter(
    (name) =>
      !existsSync(join(repository.data, name)) && existsSync(join(keysFolder(repository), name))
  );
  for (const name of missing)
    copyFileSync(join(keysFolder(repository), name), join(repository.data, name));
  return missing;
}
