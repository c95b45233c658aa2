import { formatQuantity } from '../../core/quantity/quantity.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { decidePick, type Picked } from '../../core/shipping/decide-pick.ts';
import type { Pickable, PickRecord } from '../../core/shipping/pick-record.ts';
import { pickableKnown, promisedElsewhere } from '../../core/shipping/pickable-known.ts';
import { readPickScan } from '../../core/shipping/read-pick-scan.ts';
import type { LeftPick } from './left-picks.ts';

interface Scanned {
  scan: string;
  quantity?: string;
}

/** What a scan does by what this device knows: `refused` and `already` leave nothing here. */
export type PickedHere =
  | { is: 'refused' | 'already'; said: string }
  | { is: 'picked'; said: string; moved: boolean; effect: LeftPick };

/**
 * Decides a scan at picking without a line, as the server will when it is back.
 * @param order its number
 * @param day today, `YYYY-MM-DD`
 */
export function pickHere(
  known: Snapshot,
  picks: readonly PickRecord[],
  { scan, quantity }: Scanned,
  order: string,
  day: string
): PickedHere {
  const named = readPickScan(scan, day);
  if ('why' in named) return refused(named.why);
  const mark = pickableKnown(known, picks, named.number);
  if (!mark) return refused(sayNotKnown(named.number));
  const decision = decidePick(picks, mark, { quantity }, order, day);
  if (decision.is === 'refused') return refused(decision.message);
  if (decision.is === 'already') return { is: 'already', said: decision.said };
  const other = decision.stop.mark === null ? promisedElsewhere(known, mark.id, order) : null;
  if (other !== null) return refused(`${mark.number} is promised to ${other}. Take another.`);
  const { said, moved } = decision;
  return { is: 'picked', said, moved, effect: effectOf(decision, mark, known) };
}

const refused = (said: string): PickedHere => ({ is: 'refused', said });

const sayNotKnown = (number: string): string =>
  `${number === '' ? 'What the symbol names' : number} is not known on this device. Take what the list says, or scan it again when the line is back.`;

function effectOf({ stop, amount, lies }: Picked, mark: Pickable, known: Snapshot): LeftPick {
  const lotId = known.marksById.get(mark.id)?.lotId ?? null;
  const lot = lotId === null ? null : (known.marksById.get(lotId)?.number ?? null);
  return {
    pick: stop.id,
    amount: formatQuantity(amount),
    place: lies.code,
    named: stop.mark === null ? { mark: mark.id, number: mark.number, lot } : null
  };
}
