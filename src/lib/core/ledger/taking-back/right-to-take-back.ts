import type { Right } from '../../people/rights.ts';
import type { EventKind } from '../event-kinds.ts';

const MADE: readonly Right[] = ['book.build', 'book.repack', 'book.correct'];

/** Whoever may book a kind may take it back; what was made, also whoever may correct stock. */
const RIGHTS: Readonly<Partial<Record<EventKind, readonly Right[]>>> = {
  receive: ['book.receive'],
  opening: ['book.opening'],
  return: ['book.return'],
  'put away': ['book.move'],
  move: ['book.move'],
  transfer: ['book.move'],
  build: MADE,
  repack: MADE,
  teardown: MADE,
  fit: MADE,
  remove: MADE,
  swap: MADE,
  identify: ['book.identify', 'book.correct'],
  pack: ['book.ship'],
  unpack: ['book.ship'],
  ship: ['book.ship'],
  gain: ['book.correct'],
  loss: ['book.correct'],
  count: ['book.correct'],
  scrap: ['book.scrap'],
  hold: ['decide.quality'],
  release: ['decide.quality'],
  reject: ['decide.quality'],
  amendment: ['amend']
};

/** Rights of which one is needed to take an event of a kind back; none where nobody can. */
export const rightsToTakeBack = (kind: string): readonly Right[] => RIGHTS[kind as EventKind] ?? [];
