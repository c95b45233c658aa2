/** What somebody does who is there. */
const ACTS = ['keydown', 'pointerdown', 'wheel', 'touchstart', 'input'] as const;
/** Under this name all tabs of a browser know when somebody last did something in any of them. */
const KEY = 'earmark active';
/** Told to the other tabs so often at most. */
const TOLD_MS = 5_000;
const MINUTE_MS = 60_000;

export interface Watched {
  /** What hears the acts: the window. */
  where: EventTarget;
  /** What all tabs share. */
  shared: Pick<Storage, 'getItem' | 'setItem'>;
  /** After so long without an act nobody is there. */
  minutes: number;
  onIdle: () => void;
  /** Somebody is still there: called a few times within those minutes, for the server to know. */
  onActive: () => void;
}

/**
 * Watches whether somebody is there, in this tab or another one.
 * @returns ends the watch
 */
export function watchIdle({ where, shared, minutes, onIdle, onActive }: Watched): () => void {
  const limit = minutes * MINUTE_MS;
  let told = 0,
    toldServer = Date.now();
  let timer = setTimeout(look, limit);
  act();
  for (const kind of ACTS) where.addEventListener(kind, act, { capture: true });
  return () => {
    clearTimeout(timer);
    for (const kind of ACTS) where.removeEventListener(kind, act, { capture: true });
  };

  function act(): void {
    const now = Date.now();
    if (now - told < TOLD_MS) return;
    told = now;
    shared.setItem(KEY, String(now));
    if (now - toldServer < limit / 4) return;
    toldServer = now;
    onActive();
  }
  function look(): void {
    const idle = Date.now() - Number(shared.getItem(KEY));
    if (idle >= limit) onIdle();
    timer = setTimeout(look, idle >= limit ? limit : limit - idle);
  }
}
