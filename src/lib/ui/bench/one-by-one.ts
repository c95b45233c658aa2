/** Whether this device shows what is in hand in big type, one scan after the other. */
const KEY = 'earmark one by one';

type Kept = Pick<Storage, 'getItem' | 'setItem'>;

export function isOneByOne(storage: Pick<Kept, 'getItem'>): boolean {
  return storage.getItem(KEY) === 'yes';
}

export const setOneByOne = (storage: Pick<Kept, 'setItem'>, on: boolean): void =>
  storage.setItem(KEY, on ? 'yes' : 'no');
