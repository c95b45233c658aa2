import { noAmount, sayAmounts } from './amounts.ts';
import type { ScopeRow, Standing } from './standing.ts';

/** What is known now and was not when the scope was decided. */
export interface ScopeChange {
  shipments: ScopeRow[];
  /** Marks that lie here now and were not in the scope. */ here: number[];
}

/** Compares the scope as it was decided with what is known now. */
export function scopeChange(
  frozen: { customers: readonly ScopeRow[]; here: ReadonlySet<number>; marks: ReadonlySet<number> },
  live: { customers: readonly ScopeRow[]; here: ReadonlySet<number> }
): ScopeChange {
  const known = new Set(frozen.customers.map((row) => `${row.mark} ${row.event}`));
  return {
    shipments: live.customers.filter((row) => !known.has(`${row.mark} ${row.event}`)),
    here: [...live.here].filter((mark) => !frozen.here.has(mark) && !frozen.marks.has(mark))
  };
}

/** Why a case cannot be closed yet; empty where it reconciles. */
export function hindrances(
  standing: Standing,
  change: ScopeChange,
  here: { usable: number },
  signatures: number,
  mock: boolean
): string[] {
  return [
    ...(mock ? [] : notAccountedFor(standing)),
    ...leftSince(change),
    ...(mock || here.usable === 0
      ? []
      : [`${sayMarks(here.usable)} in the scope still may be used`]),
    ...missingSignatures(signatures)
  ];
}

function notAccountedFor({ open, reported, customers }: Standing): string[] {
  const who = (kind: 'open' | 'reported'): string =>
    `${customers.filter((one) => !noAmount(one[kind])).length} of ${customers.length} customers`;
  return [
    ...(noAmount(open) ? [] : [`${sayAmounts(open)} with ${who('open')} are not accounted for`]),
    ...(noAmount(reported)
      ? []
      : [`${sayAmounts(reported)} of ${who('reported')} are said to be returned and not come in`])
  ];
}

function leftSince({ shipments }: ScopeChange): string[] {
  if (shipments.length === 0) return [];
  const have = shipments.length === 1 ? 'shipment has' : 'shipments have';
  return [`${shipments.length} ${have} left since the scope was decided`];
}

function missingSignatures(signatures: number): string[] {
  if (signatures >= 2) return [];
  return [signatures === 1 ? 'one of two signatures is missing' : 'two people have not signed yet'];
}

const sayMarks = (count: number): string =>
  `${count} ${count === 1 ? 'lot or serial' : 'lots and serials'}`;
