import { readNumber, shown } from '../numbers/number.ts';
import type { Faults } from './fault.ts';
import type { MarkNamed } from './request.ts';
import type { KnownProduct, MarkKind } from './snapshot.ts';

/** Which mark a row means: its kind and cleaned numbers. `number` is '' for the bulk mark. */
export interface Identity { kind: MarkKind; number: string; lot: string | null }

/** Where the mark is being named: when it is born its lot must be named too, later the serial alone will do. */
type Moment = 'birth' | 'use';

/**
 * Decides which mark of a product a row names, by the product's marking.
 * @returns null after adding `mark.missing` or `number.malformed` to the faults
 */
export function identify(product: KnownProduct, named: MarkNamed, moment: Moment, path: string, faults: Faults): Identity | null {
  const lot = named.lot === undefined || named.lot.trim() === '' ? null : named.lot;
  const serial = named.serial === undefined || named.serial.trim() === '' ? null : named.serial;
  switch (product.marking) {
    case 'none':
      if (lot !== null || serial !== null) {
        faults.add('number.malformed', path, `${product.code} is kept by quantity only and has no numbers. Leave ${shown(lot ?? serial!)} out.`, shown(lot ?? serial!));
        return null;
      }
      return { kind: 'bulk', number: '', lot: null };
    case 'lot':
      if (serial !== null) {
        faults.add('number.malformed', path, `${product.code} is marked by lot, not by serial. Give ${shown(serial)} as a lot or leave it out.`, shown(serial));
        return null;
      }
      return lot === null ? missing('a lot') : clean('lot', lot, null);
    case 'serial':
      if (lot !== null) {
        faults.add('number.malformed', path, `${product.code} is marked by serial alone. Leave lot ${shown(lot)} out.`, shown(lot));
        return null;
      }
      return serial === null ? missing('a serial') : clean('serial', serial, null);
    case 'serial-in-lot': {
      if (serial === null) return missing(lot === null ? 'a serial and its lot' : 'a serial');
      if (lot === null) return moment === 'birth' ? missing('the lot') : clean('serial', serial, null);
      const reading = readNumber(lot);
      if (!reading.ok) return malformed('lot', lot, reading.why);
      return clean('serial', serial, reading.number);
    }
  }

  function missing(what: string): null {
    faults.add('mark.missing', path, `${product.code} ${product.name} needs ${what} here. Type or scan it.`);
    return null;
  }
  function malformed(kind: string, text: string, why: string): null {
    faults.add('number.malformed', path, `${kind === 'lot' ? 'Lot' : 'Serial'} ${shown(text)} cannot be used: ${why}.`, shown(text));
    return null;
  }
  function clean(kind: 'lot' | 'serial', text: string, within: string | null): Identity | null {
    const reading = readNumber(text);
    return reading.ok ? { kind, number: reading.number, lot: within } : malformed(kind, text, reading.why);
  }
}
