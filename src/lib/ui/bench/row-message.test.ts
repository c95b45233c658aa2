import { expect, it } from 'vitest';
import { rowMessage } from './row-message.ts';

it('says beside the row what is wrong, without the number that stands in it', () => {
  expect(
    rowMessage('Serial PD-88403 is already in row 3 of this sheet. Remove one of the two.')
  ).toBe('Already in row 3 of this sheet');
  expect(
    rowMessage(
      'Serial PD-1 was already used for HEAD-A, on 30 Apr 2026, and has left since. A number is never used twice: give another.'
    )
  ).toBe('Already used for HEAD-A, on 30 Apr 2026, and has left since');
  expect(rowMessage('Lot F-1 of FAB-210 is short: 3 m asked, 2 there. Take less.')).toBe(
    'Short: 3 m asked, 2 there'
  );
  expect(rowMessage('Serial S1 expired on 3 Mar 2026. Take another.')).toBe(
    'Expired on 3 Mar 2026'
  );
  expect(rowMessage('ONCE is a serial of SER ser, not of LOT lot. Take a LOT.')).toBe(
    'ONCE is a serial of SER ser, not of LOT lot'
  );
});
