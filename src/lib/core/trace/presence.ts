/**
 * How long what went into a unit stayed in it, and what of a unit taken apart is not accounted for.
 * Quantities are micro-units as plain numbers; a share that has no finite decimal may differ by
 * less than one of them, which is less than the ledger keeps.
 */

/** What was done to one host, in the order of booking. `key` is the caller's, to find it again. */
export type HostAct =
  | {
      act: 'in';
      key: string;
      event: number;
      part: number;
      /** What of the part is in all that was made by this act. */
      quantity: number;
    }
  /** So much of the host was made. */
  | { act: 'made'; event: number; quantity: number }
  | { act: 'out'; event: number; part: number; quantity: number }
  | { act: 'apart'; key: string; event: number; taken: number; out: ReadonlyMap<number, number> };

export interface Presence {
  /** By the key of what went in: the event it came out by; nothing where it is still in. */
  closedBy: ReadonlyMap<string, number>;
  /** By the key of a taking apart: what was in what was taken, and of it what did not come out. */
  apart: ReadonlyMap<string, { inside: ReadonlySet<number>; unaccounted: ReadonlySet<number> }>;
}

/** Whether two ask for the same parts; null asks for all. */
export const sameParts = (
  one: ReadonlySet<number> | null,
  other: ReadonlySet<number> | null
): boolean =>
  one === other ||
  (one !== null &&
    other !== null &&
    one.size === other.size &&
    [...one].every((part) => other.has(part)));

const LEAST = 1;
const ONE_UNIT = 1_000_000;

/**
 * Goes through the acts on one host.
 * @param single whether the host is one unit: then what came out of it is no longer in it; a lot
 * goes on with the rest
 */
export function presenceIn(acts: readonly HostAct[], single: boolean): Presence {
  const closedBy = new Map<string, number>();
  const apart = new Map<string, { inside: Set<number>; unaccounted: Set<number> }>();
  const inside = new Map<number, { quantity: number; open: string[] }>();
  let made = 0;
  const close = (part: number, event: number): void => {
    for (const key of inside.get(part)?.open ?? []) closedBy.set(key, event);
    inside.delete(part);
  };
  for (const act of acts) {
    if (act.act === 'made') {
      made = single ? ONE_UNIT : made + act.quantity;
      continue;
    }
    if (act.act === 'in') {
      const there = inside.get(act.part) ?? { quantity: 0, open: [] };
      inside.set(act.part, {
        quantity: there.quantity + act.quantity,
        open: [...there.open, act.key]
      });
      continue;
    }
    if (act.act === 'out') {
      const there = inside.get(act.part);
      if (!there) continue;
      there.quantity -= act.quantity;
      if (single && there.quantity < LEAST) close(act.part, act.event);
      continue;
    }
    const share = made > 0 ? act.taken / made : 1;
    const unaccounted = [...inside]
      .filter(([part, { quantity }]) => quantity * share - (act.out.get(part) ?? 0) >= LEAST)
      .map(([part]) => part);
    apart.set(act.key, { inside: new Set(inside.keys()), unaccounted: new Set(unaccounted) });
    if (single) for (const part of [...inside.keys()]) close(part, act.event);
  }
  return { closedBy, apart };
}
