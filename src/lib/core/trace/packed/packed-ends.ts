import { Column } from './column.ts';

/**
 * One end: a mark with the event that brought it there, at a place, and how much; `event` 0 for
 * what is on hand. Quantities are places in `amounts`.
 */
export interface PackedEnds {
  mark: Uint32Array;
  event: Uint32Array;
  place: Uint32Array;
  amount: Uint32Array;
}

/** Ends as they are found, a column for each part of them. */
export class Ends {
  private readonly columns = {
    mark: new Column(16),
    event: new Column(16),
    place: new Column(16),
    amount: new Column(16)
  };
  add(mark: number, event: number, place: number, amount: number): void {
    this.columns.mark.push(mark);
    this.columns.event.push(event);
    this.columns.place.push(place);
    this.columns.amount.push(amount);
  }
  done(): PackedEnds {
    const kept = ({ data, length }: Column) => data.slice(0, length);
    return {
      mark: kept(this.columns.mark),
      event: kept(this.columns.event),
      place: kept(this.columns.place),
      amount: kept(this.columns.amount)
    };
  }
}
