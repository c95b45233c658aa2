<!-- What depends on a product as it is set up: stock, orders, bills, limits, the route. -->
<script lang="ts">
  import { sayDistance } from '../../../core/calendar/say-day.ts';
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import { ORDER_SCREEN } from '../../orders/order-screen.ts';
  import AndMore from '../../parts/AndMore.svelte';
  import { count, sayQuantity } from '../../parts/say.ts';

  interface Uses {
    onHand: { quantity: string; marks: number };
    marks: number;
    orders: {
      rows: {
        kind: keyof typeof ORDER_SCREEN;
        number: string;
        partner: string | null;
        due: string;
        ordered: string;
      }[];
      total: number;
    };
    bills: number;
    spec: number | null;
    ownSpecs: number;
    route: string | null;
  }
  let { product, uses, today }: { product: ProductRecord; uses: Uses; today: string } = $props();
  const path = $derived(encodeURIComponent(product.code));
</script>

<section aria-label="What depends on it">
  <h2>What depends on it</h2>
  <p class="stock">
    <a href="/on-hand?q={path}"
      ><b class="number">{sayQuantity(uses.onHand.quantity)}</b>
      {product.unit} on hand</a
    >
    <span class="small soft"
      >{uses.onHand.marks > 0
        ? `of ${count(uses.onHand.marks, 'lot or serial', 'lots and serials')}`
        : ''}
      {uses.marks > 0
        ? `· ${count(uses.marks, 'mark')} in the ledger`
        : '· nothing of it was booked yet'}</span
    >
  </p>
  <dl>
    <dt>Orders that wait</dt>
    <dd>
      {#each uses.orders.rows as order (`${order.kind} ${order.number}`)}<a
          class="order"
          href="{ORDER_SCREEN[order.kind]}/{encodeURIComponent(order.number)}"
          ><b class="number">{order.number}</b>
          <span class="number">{sayQuantity(order.ordered)}</span>
          {product.unit}{order.partner ? `, ${order.partner}` : ''}<span
            class="small due"
            class:stop={order.due < today}>due {sayDistance(order.due, today)}</span
          ></a
        >{:else}<span class="soft">None names it.</span>{/each}
      <AndMore shown={uses.orders.rows.length} total={uses.orders.total} />
    </dd>
    <dt>Bills</dt>
    <dd>
      {#if uses.bills > 0}<a href="/setup/products/{path}/bill"
          >It goes into {count(uses.bills, 'other product')}.</a
        >{:else}<span class="soft">It goes into no other product.</span>{/if}
    </dd>
    <dt>Limits</dt>
    <dd>
      <a href="/quality/products/{path}"
        >{uses.spec === null
          ? 'None are set; whatever is tested passes.'
          : `Version ${uses.spec}${uses.ownSpecs > 0 ? `, and ${count(uses.ownSpecs, 'customer')} with limits of their own` : ''}.`}</a
      >
    </dd>
    {#if product.made}<dt>Route</dt>
      <dd>
        {#if uses.route}<a href="/setup/routes?route={encodeURIComponent(uses.route)}"
            >Its units go route <b class="number">{uses.route}</b>.</a
          >{:else}<span class="soft">Its units are followed through no stations.</span>{/if}
      </dd>{/if}
    <dt>Ledger</dt>
    <dd><a href="/history?product={path}">Everything that happened to it</a></dd>
  </dl>
</section>

<style>
  section {
    display: grid;
    gap: 10px;
    align-content: start;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  .stock b {
    font-size: 20px;
  }
  dl {
    display: grid;
    gap: 4px 0;
  }
  dt {
    font-size: 12.5px;
    color: var(--ink-soft);
    margin-top: 6px;
  }
  dd {
    margin: 0;
    display: grid;
    gap: 4px;
    justify-items: start;
  }
  .order {
    color: var(--ink);
    text-decoration: none;
  }
  .due {
    margin-left: 8px;
    white-space: nowrap;
  }
  .order:hover b {
    text-decoration: underline;
  }
</style>
