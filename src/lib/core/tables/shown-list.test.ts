import { describe, expect, it } from 'vitest';
import { atMost, goneOn, MOST_LISTED, withoutEmpty, type ShownList } from './shown-list.ts';

const list = (columns: string[], ...rows: string[][]): ShownList => ({
  ...{ title: 'Held', columns, rows, note: '' }
});

describe('a list as it is shown', () => {
  it('leaves out columns that say nothing, and keeps those with a heading or a text', () => {
    const shown = list(['', 'Lot', 'State', ''], ['', 'L-1', '', 'late'], ['', 'L-2', '', '']);
    expect(withoutEmpty(shown)).toEqual(
      list(['Lot', 'State', ''], ['L-1', '', 'late'], ['L-2', '', ''])
    );
  });

  it('keeps at least what is there where nothing has a heading or a text', () => {
    const empty = list(['', ''], ['', '']);
    expect(withoutEmpty(empty)).toBe(empty);
  });

  it('goes on with the rows of a further page, wherever the list stands on it', () => {
    const first = list(['Lot'], ['L-1']);
    const other = { ...list(['Lot'], ['X-1']), title: 'Ended lately' };
    const next = { ...list(['Lot'], ['L-2']), note: 'The last.' };
    expect(goneOn(first, [other, next])).toEqual({
      ...list(['Lot'], ['L-1'], ['L-2']),
      note: 'The last.'
    });
  });

  it('does not go on with another list, nor with none', () => {
    expect(goneOn(list(['Lot']), [list(['Serial'], ['S-1'])])).toBeNull();
    expect(goneOn(list(['Lot']), [])).toBeNull();
  });

  it('is cut to what a file takes, and says so; what is whole stays as it is', () => {
    const rows = Array.from({ length: MOST_LISTED.rows + 1 }, (_, at) => [`S-${at}`]);
    const long = list(['Serial'], ...rows);
    expect(atMost(long).rows).toHaveLength(MOST_LISTED.rows);
    expect(atMost(long).note).toBe('The first 20000 are listed; narrow it for the rest.');
    const whole = list(['Serial'], ...rows.slice(1));
    expect(atMost(whole)).toBe(whole);
    expect(atMost(whole, true).note).toContain('narrow it');
  });
});
