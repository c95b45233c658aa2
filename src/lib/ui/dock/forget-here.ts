import { dockStore } from './store.ts';
import { tellWorker } from './worker.ts';

const WHOSE = 'earmark dock of';

/** Pages that were kept for somebody else are nobody's once another person is signed in. */
export async function forgetOthers(login: string): Promise<void> {
  if (localStorage.getItem(WHOSE) === login) return;
  localStorage.setItem(WHOSE, login);
  await tellWorker({ forget: true }).catch(() => undefined);
}

/** Nothing that was kept for the dock can be read on this device any more. */
export async function forgetHere(): Promise<void> {
  await Promise.allSettled([dockStore.forget(), tellWorker({ forget: true })]);
}
