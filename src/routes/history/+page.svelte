<script lang="ts">
  import { count, sayAmount, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const rows = $derived(data.history.rows);
  const rest = $derived(`/history?${data.what}=${encodeURIComponent(data.code)}`);
  const desk = $derived(`/on-hand/rows?${data.what}=${encodeURIComponent(data.code)}`);
</script>

<svelte:head><title>{data.code}, all that happened · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <div class="head">
    <h1><span class="number">{data.code}</span> {data.name}</h1>
    <a class="act" href={desk}>What is here now</a>
  </div>
  <p class="soft">
    {data.what === 'product'
      ? 'Everything that happened to it, at all places and on the way between them, the latest first.'
      : 'Everything that came here and went from here, the latest first.'}
    {count(data.history.total, 'line')} in all.
  </p>
  <WideTable of="what happened">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">What</th><th scope="col">With</th>{#if data.what === 'place'}<th
              scope="col">Product</th
            >{/if}<th scope="col">Lot or serial</th><th scope="col" class="right">In</th><th
            scope="col"
            class="right">Out</th
          ><th scope="col" class="right">After it</th></tr
        ></thead
      >
      <tbody>
        {#each rows as row (`${row.event} ${row.product}`)}<tr>
            <td
              ><a href="/events/{row.event}"
                >{row.kind} <span class="number">{row.document}</span></a
              ><br /><span class="small soft">{sayInstant(row.at)}</span></td
            >
            <td>{row.partner ?? ''}<br /><span class="small soft">{row.by}</span></td>
            {#if data.what === 'place'}<td
                ><a class="number" href="/history?product={encodeURIComponent(row.product)}"
                  >{row.product}</a
                ></td
              >{/if}
            <td
              >{#if row.marks > 1}{count(row.marks, 'lot or serial', 'lots and serials')}{:else}<a
                  class="number"
                  href="/marks/{row.mark}">{row.number ?? 'no number'}</a
                >{/if}</td
            >
            <td class="right number"
              >{row.came === '0' ? '' : `+${sayAmount(row.came, row.unit)}`}</td
            >
            <td class="right number"
              >{row.went === '0' ? '' : `−${sayAmount(row.went, row.unit)}`}</td
            >
            <td class="right"
              ><b class="number">{sayQuantity(row.after)}</b>
              <span class="small soft">{row.unit}</span></td
            >
          </tr>{:else}<tr
            ><td colspan="7" class="none"
              >{data.before ? 'Nothing happened before that.' : 'Nothing has happened yet.'}</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <p class="pages">
    {#if data.before}<a href={rest}>The latest</a>{/if}
    {#if data.earlier}<a rel="next" href="{rest}&before={data.earlier}">Earlier</a>{/if}
  </p>
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    gap: 16px;
    flex-wrap: wrap;
  }
  .pages {
    display: flex;
    gap: 18px;
  }
  .none {
    padding: 24px 10px;
    color: var(--ink-soft);
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
    }
  }
</style>
