import type { Verdict } from '../../core/ledger/booking.ts';
import type { Decide } from '../../core/ledger/judge-known.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { dockStore } from './store.ts';
import { keepPage } from './worker.ts';

/** Bookings that are judged on a device. */
export type DockKind = 'receipts' | 'shipments' | 'packings' | 'moves';

/**
 * Keeps pages, and what the server knows, for when it is not there.
 * @param address where that is asked: `/receive/PO-1/known`
 * @returns whether all of it is kept
 */
export async function keepForDock(pages: readonly string[], address: string): Promise<boolean> {
  const kept = await Promise.all([...pages.map(keepPage), keepKnown(address)]);
  return kept.every(Boolean);
}

async function keepKnown(address: string): Promise<boolean> {
  try {
    const answer = await fetch(address);
    if (!answer.ok || answer.redirected) return false;
    await dockStore.keepKnown(address, await answer.text());
    return true;
  } catch {
    return false;
  }
}

/** What was kept; null where nothing is, or another version of the application kept it. */
export async function readKnown(address: string): Promise<Snapshot | null> {
  const text = await dockStore.known(address).catch(() => undefined);
  if (text === undefined) return null;
  // Asked for only without a line, and kept on the device with all other files of the application.
  const { readKnownText } = await import('../../core/ledger/known-text.ts');
  try {
    if (last?.text !== text) last = { text, known: readKnownText(text) };
    return last.known;
  } catch {
    return null;
  }
}

/** What was read last: of thousands of marks it is not read again for every scan. */
let last: { text: string; known: Snapshot } | null = null;

/** Faults and notes by what is known; null where that cannot be said: the server judges later. */
export async function judgeHere(
  kind: DockKind,
  known: Snapshot,
  request: object
): Promise<Verdict | null> {
  try {
    const { judgeComing, judgeGoing } = await import('../../core/ledger/judge-known.ts');
    const judge = kind === 'receipts' ? judgeComing : judgeGoing;
    return judge(await DECIDES[kind](), known, request as never, new Date());
  } catch {
    return null;
  }
}

/** After a booking that was left here moved what is known: where that is now. */
export async function keepMoved(address: string, request: object): Promise<void> {
  const known = await readKnown(address);
  if (!known) return;
  const [decideMove, { decideKnown }, { afterwards }, { knownText }] = await Promise.all([
    DECIDES.moves(),
    import('../../core/ledger/judge-known.ts'),
    import('../../core/ledger/afterwards.ts'),
    import('../../core/ledger/known-text.ts')
  ]);
  const decision = decideKnown(decideMove, known, request as never, new Date());
  if (!decision.ok) return;
  await dockStore.keepKnown(address, knownText(afterwards(known, decision.rows)));
}

type AnyDecide = Decide<never>;

/** The decision of each kind, read where it is needed. */
const DECIDES: Record<DockKind, () => Promise<AnyDecide>> = {
  receipts: async () => (await import('../../core/receiving/receive.ts')).decideReceipt,
  shipments: async () => (await import('../../core/shipping/ship.ts')).decideShipment,
  packings: async () => (await import('../../core/shipping/pack.ts')).decidePacking,
  moves: async () => (await import('../../core/stock/decide-move.ts')).decideMove
};
