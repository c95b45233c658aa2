<!-- What an event changed of what things cost. -->
<script lang="ts">
  import type { EventCost } from '../../core/stock/costs/told.ts';
  import { sayCost, sayMoney } from '../../core/quantity/say-money.ts';
  import Cut from '../parts/Cut.svelte';
  import { sayQuantity } from '../parts/say.ts';
  import WideTable from '../parts/WideTable.svelte';

  let { rows, total }: { rows: readonly EventCost[]; total: number } = $props();
</script>

<h2>What it changed of costs</h2>
<WideTable of="costs">
  <table class="plain">
    <thead
      ><tr
        ><th scope="col">Lot or serial</th><th scope="col" class="right">Cost of one</th><th
          scope="col"
          class="right">Ours then</th
        ><th scope="col" class="right">Of what is here</th><th scope="col" class="right"
          >Of what had left</th
        ></tr
      ></thead
    >
    <tbody>
      {#each rows as row (row.mark)}<tr>
          <td
            ><a class="number" href="/marks/{row.mark}">{row.number ?? row.product}</a><br /><span
              class="small soft">{row.product} {row.name}</span
            ></td
          >
          <td class="right number">{sayCost(row.before)} → {sayCost(row.after)}</td>
          <td class="right"
            ><span class="number">{sayQuantity(row.lying)}</span>
            <span class="small soft">{row.unit}</span></td
          >
          <td class="right number">{row.here === null ? 'was not known' : sayMoney(row.here)}</td>
          <td class="right number"
            >{#if row.gone === null}not known{:else}{row.gone === '0'
                ? ''
                : sayMoney(row.gone)}{/if}</td
          >
        </tr>{/each}
    </tbody>
  </table>
</WideTable>
<Cut shown={rows.length} {total} of="lots and serials" rest="What changed the value has a file" />
