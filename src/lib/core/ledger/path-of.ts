import { numberKey } from '../numbers/number.ts';

/**
 * Where in a request a number or code stands, as `lines[2].marks[7]`: the last place, as the first
 * of two that are the same is the one that was meant. Empty where it stands nowhere, as what is
 * drawn by itself does.
 */
export function pathOf(request: object, number: string): string {
  const wanted = numberKey(number);
  let found = '';
  const look = (value: unknown, path: string, holder: string): void => {
    if (typeof value === 'string') {
      if (wanted !== '' && numberKey(value) === wanted) found = holder;
      return;
    }
    if (Array.isArray(value))
      value.forEach((one, at) => look(one, `${path}[${at}]`, `${path}[${at}]`));
    else if (value !== null && typeof value === 'object')
      for (const [key, one] of Object.entries(value))
        look(one, path === '' ? key : `${path}.${key}`, path === '' ? key : path);
  };
  look(request, '', '');
  return found;
}
