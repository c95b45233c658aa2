<!-- What came back lately: from whom, why, on what it had been sold, and what became of it. -->
<script lang="ts">
  import { sayDay } from '../../core/calendar/say-day.ts';
  import type { ReturnRecord } from '../../core/shipping/return-record.ts';
  import Cut from '../parts/Cut.svelte';
  import { sayQuantity } from '../parts/say.ts';
  import Tag from '../stock/Tag.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    returns: { rows: readonly ReturnRecord[]; total: number };
    mayDecide: boolean;
  }
  let { returns, mayDecide }: Props = $props();
</script>

<h2>Came back lately</h2>
<WideTable of="returned lately">
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">What</th><th scope="col">From</th><th scope="col">Return</th><th
          scope="col">Sold on</th
        ><th scope="col" class="right">Quantity</th><th scope="col">Now</th></tr
      ></thead
    >
    <tbody
      >{#each returns.rows as row (`${row.event} ${row.mark}`)}
        <tr
          ><td
            ><Tag
              kind={row.kind}
              number={row.number}
              under="{row.product} {row.name}"
              state={row.state}
              href="/marks/{row.mark}"
            /></td
          ><td
            >{row.partner ?? ''}{#if row.reason}<br /><span class="small soft">“{row.reason}”</span
              >{/if}</td
          ><td
            ><a class="number" href="/events/{row.event}">{row.document}</a><br /><span
              class="small soft">{sayDay(row.day)}</span
            ></td
          ><td class="number">{row.soldOn}</td><td class="right number"
            >{sayQuantity(row.quantity)} <span class="small soft">{row.unit}</span></td
          >
          <td
            >{#if row.gone}<span class="soft">gone on</span
              >{:else if row.state === 'held'}{#if mayDecide}<a class="act" href="/marks/{row.mark}"
                  >Decide</a
                >{:else}<b class="stop">held</b>{/if}{:else if row.state === 'usable'}<span
                class="good">✓ released</span
              >{:else}{row.state}{/if}</td
          ></tr
        >
      {:else}<tr
          ><td colspan="6" class="soft"
            >Nothing has come back yet. Scan the serial of a shipped unit above: it finds its sale
            by itself.</td
          ></tr
        >{/each}</tbody
    >
  </table>
</WideTable>
<Cut
  shown={returns.rows.length}
  total={returns.total}
  of="returned lots and serials"
  rest="what waits for a decision first, then the latest; every return stands on its mark’s page"
/>
