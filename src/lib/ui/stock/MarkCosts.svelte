<!-- What one of a mark costs, and what told so. -->
<script lang="ts">
  import type { MarkCost } from '../../core/stock/costs/told.ts';
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { quantity } from '../../core/quantity/quantity.ts';
  import { sayCost, sayMoney } from '../../core/quantity/say-money.ts';

  interface Props {
    mark: number;
    kind: 'lot' | 'serial' | 'bulk';
    /** The latest first. */
    costs: readonly MarkCost[];
    onHand: string;
    unit: string;
    currency: string | null;
    mayRevalue: boolean;
  }
  let { mark, kind, costs, onHand, unit, currency, mayRevalue }: Props = $props();
  const now = $derived(costs[0]?.cost ?? null);
  const comesTo = $derived(now === null ? '' : sayMoney(quantity(now).times(onHand).toFixed()));
</script>

<section>
  <h2>What it costs</h2>
  {#if now === null}<p>
      <b class="stop">not known</b>
      <span class="soft small">It is in no sum until it is told.</span>
    </p>{:else}<p>
      <b class="number">{sayCost(now)}</b>
      {currency ?? ''}{#if kind !== 'serial'}<span class="soft"
          >&nbsp;for one {unit}{onHand === '0' ? '' : `, ${comesTo} for what is on hand`}</span
        >{/if}
    </p>{/if}
  {#if costs.length > 0}<ul>
      {#each costs as one (one.event)}<li>
          <b class="number">{sayCost(one.cost)}</b>
          <span class="small soft"
            >from <a href="/events/{one.event}"
              >{one.kind} <span class="number">{one.document}</span></a
            >, {sayDay(one.day)}{#if one.toldBy}, told by
              <a href="/events/{one.toldBy.event}"
                >{one.toldBy.kind} <span class="number">{one.toldBy.document}</span></a
              >{/if}</span
          >
        </li>{/each}
    </ul>{/if}
  {#if mayRevalue}<a class="act" href="/value/revalue?mark={mark}">Tell its cost …</a>{/if}
</section>

<style>
  ul {
    display: grid;
    gap: 6px;
    margin: 8px 0 12px;
  }
</style>
