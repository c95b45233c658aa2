const KEY = 'earmark one by one';

/** Whether this device shows what is in hand in big type, one scan after the other. */
export const isOneByOne = (storage: Pick<Storage, 'getItem'>): boolean =>
  storage.getItem(KEY) === 'yes';

export const setOneByOne = (storage: Pick<Storage, 'setItem'>, on: boolean): void =>
  storage.setItem(KEY, on ? 'yes' : 'no');
