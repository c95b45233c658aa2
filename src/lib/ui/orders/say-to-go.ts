import { count, sayCounted } from '../parts/say.ts';

/** What an order still waits for: of unlike measures no sum is made, its open lines are counted. */
export function sayToGo(order: { left: string; unit: string; openLines: number }): string {
  if (order.unit === '') return `${count(order.openLines, 'line')} to go`;
  return `${sayCounted(order.left, order.unit)} to go`;
}
