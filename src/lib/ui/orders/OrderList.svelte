<!-- The list of a working screen: what is open, most urgent first. -->
<script lang="ts">
  import { daysBetween } from '../../core/calendar/day.ts';
  import { sayDayShort } from '../../core/calendar/say-day.ts';
  import { count } from '../parts/say.ts';
  import Cut from '../parts/Cut.svelte';
  import { sayToGo } from './say-to-go.ts';

  interface Order {
    number: string;
    partnerName: string | null;
    due: string;
    state: string;
    lines: number;
    products: string;
    left: string;
    unit: string;
    openLines: number;
    part: number;
  }
  interface Props {
    title: string;
    base: string;
    /** The most urgent that wait, and how many there are. */
    orders: readonly Order[];
    total: number;
    done: readonly Order[];
    current?: string;
    today: string;
    newHref?: string;
    empty: string;
  }
  let { title, base, orders, total, done, current, today, newHref, empty }: Props = $props();

  function when(due: string): string {
    const days = daysBetween(today, due);
    return days === 0
      ? 'today'
      : days === 1
        ? 'tomorrow'
        : days < 0
          ? `${count(-days, 'day')} late`
          : sayDayShort(due, today);
  }
</script>

<div class="head">
  <h2>{title} · {total}</h2>
  {#if newHref}<a href={newHref}>New order</a>{/if}
</div>
<ul data-list>
  {#each orders as order (order.number)}
    <li>
      <a
        href="{base}/{encodeURIComponent(order.number)}"
        aria-current={order.number === current ? 'true' : undefined}
      >
        <span class="row"
          ><b class="number">{order.number}</b><span class="when" class:late={order.due < today}
            >{when(order.due)}</span
          ></span
        >
        <span class="who">{order.partnerName ?? order.products}</span>
        {#if order.partnerName}<span class="row small soft"><span>{order.products}</span></span
          >{/if}
        <span class="row small soft"
          ><span>{sayToGo(order)}</span>{#if order.state === 'part'}<span>part booked</span
            >{/if}</span
        >
        <span class="bar" aria-hidden="true"
          ><span style:width="{Math.round(order.part * 100)}%"></span></span
        >
      </a>
    </li>
  {:else}
    <li class="empty">{empty}</li>
  {/each}
</ul>
<div class="rest">
  <Cut
    shown={orders.length}
    {total}
    of="orders"
    rest="any is found by its number or partner in the scan field"
  />
</div>
{#if done.length > 0}
  <div class="head"><h2>Lately done</h2></div>
  <ul data-list>
    {#each done as order (order.number)}
      <li>
        <a
          class="done"
          href="{base}/{encodeURIComponent(order.number)}"
          aria-current={order.number === current ? 'true' : undefined}
        >
          <span class="row"
            ><b class="number">{order.number}</b><span class="when"
              >{sayDayShort(order.due, today)}</span
            ></span
          >
          <span class="row small soft"
            ><span>{order.partnerName ?? order.products}</span><span
              >{order.state === 'closed' ? 'closed' : '✓ complete'}</span
            ></span
          >
        </a>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .rest {
    padding: 0 14px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    padding: 12px 14px 8px;
  }
  .head a {
    font-size: 13px;
    font-weight: 600;
  }
  li a {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
    padding: 10px 14px 12px;
    border-bottom: 1px solid var(--line);
    border-left: 3px solid transparent;
    color: var(--ink);
    text-decoration: none;
  }
  li a:hover {
    background: var(--panel);
  }
  li a[aria-current] {
    background: var(--panel);
    border-left-color: var(--brass);
  }
  .row {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    align-items: baseline;
  }
  .row > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .row > span + span,
  .when {
    flex: none;
  }
  .when {
    font-size: 13px;
    color: var(--ink-soft);
  }
  .when.late {
    color: var(--rust);
    font-weight: 600;
  }
  .who {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .bar {
    display: block;
    height: 4px;
    margin-top: 5px;
    background: #e6dfd1;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--sea);
  }
  .empty {
    padding: 10px 14px 20px;
    color: var(--ink-soft);
  }
  .done {
    padding-block: 7px;
  }
</style>
