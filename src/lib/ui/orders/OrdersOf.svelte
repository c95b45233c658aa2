<!-- The list beside a working screen, in the words of its kind of order. -->
<script lang="ts" module>
  export const NONE = {
    purchase: 'No purchase order is open. Enter one, and it waits here until its goods come in.',
    work: 'No work order is open. Enter one, and it waits here until it is built.',
    sales: 'No sales order is open. Enter one, and it waits here until it is shipped.'
  };
</script>

<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import { ORDER_SCREEN } from './order-screen.ts';
  import Live from '../frame/Live.svelte';
  import OrderList from './OrderList.svelte';

  type List = ComponentProps<typeof OrderList>;
  interface Props {
    kind: keyof typeof NONE;
    data: {
      orders: List['orders'];
      total: number;
      done: List['done'];
      today: string;
      mayOrder: boolean;
    };
    current?: string;
  }
  let { kind, data, current }: Props = $props();
  const TITLE = { purchase: 'Expected', work: 'To build', sales: 'To ship' };
</script>

<Live of={['ledger', 'orders']} only="orders:list" />
{#if kind === 'purchase'}<p class="ways">
    <a href="/put-away">Put away</a><a href="/labels">Labels</a>{#if data.mayOrder}<a
        href="/orders/import?kind=purchase">Orders from a file</a
      >{/if}
  </p>{/if}
{#if kind === 'work'}<p class="ways">
    <a href="/build/floor">The floor</a><a href="/repack">Repack</a>{#if data.mayOrder}<a
        href="/orders/import?kind=work">Orders from a file</a
      >{/if}
  </p>{/if}
{#if kind === 'sales'}<p class="ways">
    <a href="/ship/backorders">Owed</a><a href="/returns">Returns</a>{#if data.mayOrder}<a
        href="/orders/import?kind=sales">Orders from a file</a
      >{/if}
  </p>{/if}
<OrderList
  title={TITLE[kind]}
  base={ORDER_SCREEN[kind]}
  orders={data.orders}
  total={data.total}
  done={data.done}
  {current}
  today={data.today}
  newHref={data.mayOrder ? `/orders/new?kind=${kind}` : undefined}
  empty={NONE[kind]}
/>

<style>
  .ways {
    display: flex;
    gap: 14px;
    padding: 10px 14px 0;
    font-size: 13px;
    font-weight: 600;
    flex-wrap: wrap;
  }
</style>
