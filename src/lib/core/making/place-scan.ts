import { sayDay } from '../calendar/say-day.ts';
import type { MarkKind, MarkState } from '../catalogue/marking.ts';
import { hasSerials } from '../catalogue/plan.ts';
import { openPosition, positionsOf, type Component } from '../catalogue/positions.ts';

/**
 * A mark a scanned text can mean. `gone` says where a mark is that is not on hand, as the rest of a
 * sentence.
 */
export interface ScannedMark {
  product: string;
  kind: MarkKind;
  number: string;
  state: MarkState;
  expires: string | null;
  onHand: boolean;
  gone: string | null;
  revision: string | null;
  lot: string | null;
}

export interface ScanMaterial {
  order: string;
  /** What the order makes. */
  made: { product: string; marking: 'none' | 'lot' | 'serial' | 'serial-in-lot' };
  components: readonly Component[];
  /** The number that was read. */
  number: string;
  marks: readonly ScannedMark[];
  /** Outputs named ahead with this number: the order, and whether it is made. */
  named: readonly { order: string; made: boolean }[];
  /** How many outputs of this order were named ahead. */
  namedOnOrder: number;
  day: string;
}
/** The unit in hand: its serial and what is named on it, by the keys of its positions. */
export interface UnitInHand {
  serial: string | null;
  filled: Readonly<Record<string, string>>;
}

export type Placed =
  | { is: 'unit'; serial: string; says: string }
  | {
      is: 'part';
      key: string;
      label: string;
      number: string;
      product: string;
      serial: boolean;
      says: string;
    }
  | { is: 'refused'; says: string };

const same = (a: string, b: string): boolean => a.toUpperCase() === b.toUpperCase();
const refuse = (says: string): Placed => ({ is: 'refused', says });

/**
 * Says what a scan at the bench is: the next unit, a part with its position on the unit in hand, or
 * nothing that belongs here, in words.
 */
export function placeScan(material: ScanMaterial, unit: UnitInHand): Placed {
  const { number, made, components, day } = material;
  const ours = material.named.find((one) => same(one.order, material.order));
  const finished = material.marks.find(
    (mark) => same(mark.product, made.product) && mark.kind === 'serial'
  );
  if (ours && !ours.made) return asUnit();
  const takes = (mark: ScannedMark) =>
    components.find(
      (component) =>
        same(component.product, mark.product) ||
        component.alternates.some((other) => same(other, mark.product))
    );
  const parts = material.marks.filter((mark) => mark.kind !== 'bulk' && takes(mark));
  if (parts.length > 0) return asPart(parts.find((mark) => mark.onHand) ?? parts[0]!);
  if (finished)
    return refuse(
      finished.onHand
        ? `${number} is built already. For rework, name it among the parts on the sheet.`
        : `${number} is built already: ${finished.gone ?? 'it has left'}.`
    );
  const other = material.named[0];
  if (other)
    return refuse(`${number} is a unit of order ${other.order}, not of ${material.order}.`);
  const foreign = material.marks[0];
  if (foreign)
    return refuse(
      `${number} is a ${foreign.kind} of ${foreign.product}. One ${made.product} takes ${
        components
          .filter((one) => one.marking !== 'none')
          .map((one) => one.product)
          .join(', ') || 'no parts'
      }.`
    );
  if (material.namedOnOrder > 0)
    return refuse(
      `${number} is neither a unit named for ${material.order} nor anything that was received or made here.`
    );
  return hasSerials(made.marking) ? asUnit() : refuse(`There is nothing numbered ${number} here.`);

  function asUnit(): Placed {
    return unit.serial !== null && same(unit.serial, number)
      ? refuse(`${number} is the unit in hand already. Scan its next part.`)
      : { is: 'unit', serial: number, says: `Unit ${number}. Scan its parts.` };
  }

  function asPart(mark: ScannedMark): Placed {
    const component = takes(mark)!;
    const name = `${mark.kind === 'lot' ? 'Lot' : 'Serial'} ${mark.number} of ${mark.product}`;
    if (!mark.onHand)
      return refuse(`${name} is not here: ${mark.gone ?? 'it was used, shipped or scrapped'}.`);
    if (mark.state !== 'usable')
      return refuse(
        `${name} is ${mark.state === 'held' ? 'held by quality. Put it aside' : 'rejected. Put it aside'}.`
      );
    if (mark.expires !== null && mark.expires < day)
      return refuse(`${name} expired on ${sayDay(mark.expires)}. Put it aside.`);
    if (
      component.revision !== null &&
      same(component.product, mark.product) &&
      (mark.revision === null || !same(mark.revision, component.revision))
    )
      return refuse(
        `${name} is ${mark.revision === null ? 'of no known revision' : `revision ${mark.revision}`}, and this unit takes revision ${component.revision}.`
      );
    if (component.follow !== 'unit')
      return refuse(
        `${mark.product} is ${component.follow === 'drawn' ? 'drawn by itself' : 'named once for the whole batch'}; it need not be scanned.`
      );
    if (unit.serial === null) return refuse(`Scan the unit first, then ${name}.`);
    const positions = positionsOf(components);
    if (
      Object.values(unit.filled).some((there) => same(there, mark.number)) &&
      mark.kind === 'serial'
    )
      return refuse(`${name} is on this unit already.`);
    const position = openPosition(positions, unit.filled, mark.product);
    if (!position) {
      const theirs = positions
        .filter((one) => one.component === component)
        .map((one) => unit.filled[one.key]);
      return refuse(
        `${unit.serial} has its ${component.product} already: ${theirs.join(', ')}. Undo that first, or take the next unit.`
      );
    }
    if (position.serial !== (mark.kind === 'serial'))
      return refuse(
        `${name}: ${component.product} is named by its ${position.serial ? 'serial' : 'lot'} here. Scan that.`
      );
    return {
      is: 'part',
      key: position.key,
      label: position.label,
      number: mark.number,
      product: mark.product,
      serial: mark.kind === 'serial',
      says: `${position.label}: ${mark.number}${same(component.product, mark.product) ? '' : `, an alternate for ${component.product}`}`
    };
  }
}
