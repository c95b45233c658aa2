<script lang="ts">
  import { capital } from '$lib/core/capital.ts';
  import { sayDistance } from '$lib/core/calendar/say-day.ts';
  import AsOf from '$lib/ui/parts/AsOf.svelte';
  import Trend from '$lib/ui/parts/Trend.svelte';
  import { totalOf } from '$lib/core/quantity/quantity.ts';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const kinds = $derived(
    Object.entries(data.counts ?? {})
      .map(([kind, total]) => ({
        kind,
        says: data.kinds[kind as keyof typeof data.kinds],
        total,
        ends: data.ends.filter((end) => end.kind === kind)
      }))
      .sort((a, b) => Number(b.total > 0) - Number(a.total > 0))
  );
  const breaks = $derived(totalOf(Object.values(data.counts ?? {}).map(String)));
  const SHOWN = 30;
</script>

<svelte:head><title>Loose ends · Earmark</title></svelte:head>
<div class="screen">
  <div class="head">
    <div>
      <h1>
        Loose ends{#if data.counts}: {count(Number(breaks), 'break')} in traceability{/if}
      </h1>
      <p class="soft">
        The whole ledger, looked over. Each says where it is mended. <AsOf
          at={data.at}
          underWay={data.underWay}
        />
      </p>
    </div>
    <div class="trend"><Trend points={data.trend} /></div>
  </div>
  {#each kinds as { kind, says, total, ends } (kind)}
    <section>
      <h2>
        {capital(kind)}
        <span class:good={total === 0}>{total === 0 ? '✓ none' : sayQuantity(String(total))}</span>
      </h2>
      {#if ends.length > 0}<p class="small soft">{says}</p>
        <ul data-list>
          {#each ends.slice(0, SHOWN) as end, index (index)}<li>
              <b class="number">{end.title}</b><span>{end.says}</span><span class="small soft"
                >{end.since ? sayDistance(end.since, data.today) : ''}</span
              ><a class="act quiet" href={end.href}>{end.mend}</a>
            </li>{/each}
        </ul>
        {#if total > SHOWN}<p class="small soft">
            and {sayQuantity(String(total - SHOWN))} more, not listed here: these are the oldest
          </p>{/if}{/if}
    </section>
  {/each}
</div>

<style>
  .screen {
    padding: 22px 26px;
    display: grid;
    gap: 16px;
    align-content: start;
    background: var(--paper);
    min-height: 100%;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 16px;
  }
  .trend {
    width: 320px;
    max-width: 100%;
  }
  section {
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 10px 16px;
  }
  h2 {
    display: flex;
    gap: 10px;
    font-size: 15px;
    color: var(--ink);
  }
  h2 span {
    font-weight: 400;
    color: var(--rust);
  }
  h2 .good {
    color: var(--sea);
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.6fr) 130px 190px;
    gap: 12px;
    align-items: center;
    border-top: 1px solid var(--line);
    min-height: 42px;
  }
  @media (max-width: 800px) {
    li {
      grid-template-columns: 1fr;
      padding: 6px 0;
    }
  }
</style>
