import { kindsThat } from '../ledger/event-kinds.ts';
import { formatQuantity, quantity, ZERO, type Quantity } from '../quantity/quantity.ts';

/** Kinds of event by which a mark comes to be: what they add counts as received or made. */
const MAKES = kindsThat('makes');
const SHIPS = kindsThat('ships');
const SCRAPS = kindsThat('scraps');
const CORRECTS = kindsThat('corrects');

/** Whether what this kind of event adds to a mark is part of all that ever came in of it. */
export const bringsIn = (kind: string): boolean =>
  MAKES.has(kind) || kind === 'gain' || kind === 'count';

/**
 * One movement of a mark with the kind of its event; for a reversal also what kind it took back.
 */
export interface KindOfMovement {
  kind: string;
  quantity: string;
  undoes?: string | null;
}

/**
 * What a reversal takes away was never made; what it gives back was never used, which the
 * transformations say.
 */
const unmakes = ({ kind, quantity, undoes }: KindOfMovement): boolean =>
  kind === 'reversal' && undoes != null && MAKES.has(undoes) && quantity.startsWith('-');

/** A shipment, a return, a scrap or a correction that is taken back counts against its kind. */
const countsAs = ({ kind, undoes }: KindOfMovement): string =>
  kind === 'reversal' ? (undoes ?? kind) : kind;

export interface Balance {
  in: string;
  onHand: string;
  used: string;
  shipped: string;
  scrapped: string;
  corrected: string;
  open: string;
}

/**
 * The mass balance: came in = on hand + used + shipped + scrapped ± corrections. `open` is what
 * does not close.
 * It is no tautology: `onHand` is the stock kept, `used` is what transformations say, the rest is
 * summed from movements, so a link that is wrong or missing leaves something open.
 * @param movements all movements of the mark
 * @param onHand stock kept, summed over places
 * @param used what the transformations took of it
 */
export function massBalance(
  movements: Iterable<KindOfMovement>,
  onHand: string,
  used: string
): Balance {
  const sums = { in: ZERO, shipped: ZERO, scrapped: ZERO, corrected: ZERO };
  for (const movement of movements) {
    const { quantity: amount } = movement;
    const kind = countsAs(movement);
    if ((movement.kind === kind && MAKES.has(kind) && !amount.startsWith('-')) || unmakes(movement))
      sums.in = sums.in.plus(amount);
    else if (SHIPS.has(kind)) sums.shipped = sums.shipped.minus(amount);
    else if (SCRAPS.has(kind)) sums.scrapped = sums.scrapped.minus(amount);
    else if (CORRECTS.has(kind)) sums.corrected = sums.corrected.plus(amount);
  }
  const open = sums.in
    .plus(sums.corrected)
    .minus(onHand)
    .minus(used)
    .minus(sums.shipped)
    .minus(sums.scrapped);
  const show = (value: Quantity) => formatQuantity(value);
  return {
    in: show(sums.in),
    onHand: show(quantity(onHand)),
    used: show(quantity(used)),
    shipped: show(sums.shipped),
    scrapped: show(sums.scrapped),
    corrected: show(sums.corrected),
    open: show(open)
  };
}

/**
 * Why a balance is open, in words: what moved and what was tied together disagree, or what moved
 * and what lies here. Empty where it closes.
 * @param movements all movements of the mark, signed
 */
export function openCauses(
  movements: Iterable<KindOfMovement>,
  onHand: string,
  used: string
): string[] {
  let moved = ZERO,
    out = ZERO;
  for (const { kind, quantity: amount, undoes } of movements) {
    moved = moved.plus(amount);
    const tied = MAKES.has(kind) || (kind === 'reversal' && undoes != null && MAKES.has(undoes));
    if (
      tied &&
      kind !== 'receive' &&
      (kind === 'reversal' ? !amount.startsWith('-') : amount.startsWith('-'))
    )
      out = out.minus(amount);
  }
  const unnamed = out.minus(used),
    missing = moved.minus(onHand);
  return [
    ...(unnamed.gt(0)
      ? [`${formatQuantity(unnamed)} went into builds that do not say what into`]
      : unnamed.lt(0)
        ? [`${formatQuantity(unnamed.abs())} are named as used, and no booking took them`]
        : []),
    ...(missing.isZero()
      ? []
      : [
          `${formatQuantity(missing.abs())} ${missing.gt(0) ? 'should lie here and do not' : 'lie here and never came'}`
        ])
  ];
}
