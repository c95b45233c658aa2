// What a command may ask of the machine it runs on: packages, users, folders, ports. Plain
// JavaScript, because it runs before anything is installed.
import { spawnSync } from 'node:child_process';
import { accessSync, chownSync, constants, mkdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';

/** A failure a person can mend: printed as it stands, without a stack. */
export class Plain extends Error {}

export const asRoot = process.getuid?.() === 0;

/** Installs Debian packages, or says plainly why it could not. */
export function aptInstall(packages, forWhat) {
  const hand = `apt-get install ${packages.join(' ')}`;
  if (!asRoot)
    throw new Plain(
      `${forWhat} is missing and only root may install it. Run once as root: ${hand}`
    );
  console.log(`Installing ${packages.join(', ')} from Debian …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (...args) =>
    spawnSync('apt-get', ['-qq', '-o', 'DPkg::Lock::Timeout=120', ...args], {
      env,
      encoding: 'utf8'
    });
  run('update');
  const done = run('install', '-y', '--no-install-recommends', ...packages);
  if (done.error || done.status !== 0) {
    const why = (done.stderr || done.error?.message || '').trim().split('\n').at(-1);
    throw new Plain(
      `${forWhat} is missing and could not be installed (${why}). Install it by hand, then start again: ${hand}`
    );
  }
}

/** The user the database server runs as: PostgreSQL refuses to run as root. */
export function serverUser() {
  if (!asRoot) return {};
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((row) => row.startsWith('postgres:'));
  if (!line)
    throw new Plain(
      'There is no user "postgres" on this machine. Install Debian\'s package postgresql, or start Earmark as an ordinary user.'
    );
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

/**
 * What the database's programs are given of the environment: where programs are, and a language.
 * Tokens and passwords that stand in it are none of theirs, and would stand in /proc as long as they
 * run.
 */
export function bareEnvironment() {
  const { PATH = '/usr/local/bin:/usr/bin:/bin', TZ } = process.env;
  return { PATH, LC_ALL: 'C.UTF-8', ...(TZ ? { TZ } : {}) };
}

/** True when nothing listens on the port of the loopback address. */
export function portFree(port, host = '127.0.0.1') {
  return new Promise((answer) => {
    const probe = createServer()
      .once('error', () => answer(false))
      .once('listening', () => probe.close(() => answer(true)));
    probe.listen(port, host);
  });
}

/** A port that is free now. */
export function anyFreePort() {
  return new Promise((answer, fail) => {
    const probe = createServer()
      .once('error', fail)
      .listen(0, '127.0.0.1', () => {
        const { port } = probe.address();
        probe.close(() => answer(port));
      });
  });
}

export function makeDataFolder(folder) {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK | constants.X_OK);
  } catch (error) {
    throw new Plain(
      `The data folder ${folder} cannot be written (${error.code}). Give yourself the right to it, or set EARMARK_DATA to a folder of your own.`
    );
  }
}

/** With root, every folder above the cluster must let the user postgres through. */
export function checkReachable(folder, user) {
  if (user.uid === undefined) return;
  const test = spawnSync('test', ['-x', folder], { uid: user.uid, gid: user.gid });
  if (test.status !== 0) {
    throw new Plain(
      `The database runs as the user "postgres", which cannot enter ${folder}. Set EARMARK_DATA to a folder it can reach, such as /var/lib/earmark.`
    );
  }
}

/** Makes a folder of the user the database runs as, which nobody else gets into. */
export function makeOwnFolder(folder, user) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  if (user.uid !== undefined) chownSync(folder, user.uid, user.gid);
}
