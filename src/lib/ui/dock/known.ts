import type { Verdict } from '../../core/ledger/booking.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { dockStore } from './store.ts';

/** Bookings that are judged on a device. */
export type DockKind = 'receipts' | 'shipments' | 'packings' | 'moves';

/**
 * Keeps what the server knows, for when it is not there.
 * @param address where it is asked: `/receive/PO-1/known`
 * @returns whether it is kept
 */
export async function keepKnown(address: string): Promise<boolean> {
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
    return readKnownText(text);
  } catch {
    return null;
  }
}

/** Faults and notes by what is known; null where that cannot be said: the server judges later. */
export async function judgeHere(
  kind: DockKind,
  known: Snapshot,
  request: object
): Promise<Verdict | null> {
  try {
    return (await JUDGES[kind]())(known, request, new Date());
  } catch {
    return null;
  }
}

/** After a booking that was left here moved what is known: where that is now. */
export async function keepMoved(address: string, request: object): Promise<void> {
  const known = await readKnown(address);
  if (!known) return;
  const [{ decideKnown }, { decideMove }, { afterwards }, { knownText }] = await Promise.all([
    import('../../core/ledger/judge-known.ts'),
    import('../../core/stock/decide-move.ts'),
    import('../../core/ledger/afterwards.ts'),
    import('../../core/ledger/known-text.ts')
  ]);
  const decision = decideKnown(decideMove, known, request as never, new Date());
  if (!decision.ok) return;
  await dockStore.keepKnown(address, knownText(afterwards(known, decision.rows)));
}

type Judge = (known: Snapshot, request: object, now: Date) => Verdict;

const JUDGES: Record<DockKind, () => Promise<Judge>> = {
  receipts: async () => {
    const { judgeComing } = await import('../../core/ledger/judge-known.ts');
    const { decideReceipt } = await import('../../core/receiving/receive.ts');
    return (known, request, now) => judgeComing(decideReceipt, known, request as never, now);
  },
  shipments: async () => {
    const { judgeGoing } = await import('../../core/ledger/judge-known.ts');
    const { decideShipment } = await import('../../core/shipping/ship.ts');
    return (known, request, now) => judgeGoing(decideShipment, known, request as never, now);
  },
  packings: async () => {
    const { judgeGoing } = await import('../../core/ledger/judge-known.ts');
    const { decidePacking } = await import('../../core/shipping/pack.ts');
    return (known, request, now) => judgeGoing(decidePacking, known, request as never, now);
  },
  moves: async () => {
    const { judgeGoing } = await import('../../core/ledger/judge-known.ts');
    const { decideMove } = await import('../../core/stock/decide-move.ts');
    return (known, request, now) => judgeGoing(decideMove, known, request as never, now);
  }
};
