import type { PickRecord } from '../../core/shipping/pick-record.ts';
import { quantity } from '../../core/quantity/quantity.ts';

/** What a pick that waits on this device does to its stop. */
export interface LeftPick {
  pick: number;
  amount: string;
  /** Where it was taken. */
  place: string;
  /** The serial that fills a stop where any will do. */
  named: { mark: number; number: string; lot: string | null } | null;
}

/** What a packing that waits on this device puts into a carton, by stop. */
export interface LeftPacking {
  unit: string;
  packs: { pick: number; amount: string }[];
}

/** The pick list with what was picked here and is not on the server yet. */
export function withLeftPicks(
  picks: readonly PickRecord[],
  left: readonly LeftPick[]
): PickRecord[] {
  return left.reduce<PickRecord[]>(
    (list, { pick, amount, place, named }) =>
      list.map((stop) =>
        stop.id === pick ? { ...stop, ...named, place, picked: sum(stop.picked, amount) } : stop
      ),
    [...picks]
  );
}

/** The pick list with what was packed here and is not on the server yet. */
export function withLeftPackings(
  picks: readonly PickRecord[],
  left: readonly LeftPacking[]
): PickRecord[] {
  return left
    .flatMap(({ packs }) => packs)
    .reduce<PickRecord[]>(
      (list, { pick, amount }) =>
        list.map((stop) =>
          stop.id === pick ? { ...stop, packed: sum(stop.packed, amount) } : stop
        ),
      [...picks]
    );
}

type What = 'kind' | 'number' | 'product' | 'name' | 'unit' | 'lot' | 'expires';

/** A carton as the bench shows it. */
interface Carton {
  sscc: string;
  contents: (Pick<PickRecord, What> & { mark: number; quantity: string })[];
  summary: { product: string; name: string; unit: string; quantity: string }[];
}

/** Cartons with what was put into them here and is not on the server yet. */
export function withLeftContents<Unit extends Carton>(
  units: readonly Unit[],
  left: readonly LeftPacking[],
  picks: readonly PickRecord[]
): Unit[] {
  const stops = new Map(picks.map((pick) => [pick.id, pick]));
  return units.map((unit) => {
    const into = left.filter((one) => one.unit === unit.sscc).flatMap(({ packs }) => packs);
    const more = into.flatMap(({ pick, amount }) => {
      const stop = stops.get(pick);
      return stop?.mark == null ? [] : [{ ...stop, mark: stop.mark, quantity: amount }];
    });
    if (more.length === 0) return unit;
    return {
      ...unit,
      contents: [...unit.contents, ...more],
      summary: [...unit.summary, ...more]
    };
  });
}

const sum = (before: string, more: string): string => quantity(before).plus(more).toFixed();
