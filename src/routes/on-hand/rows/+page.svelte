<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { goto } from '$app/navigation';
  import { narrowTo } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';
  import {
    deskAddress,
    deskFileAddress,
    sortedBy,
    type DeskFilters
  } from '$lib/ui/stock/desk-address.ts';
  import Tabs from '$lib/ui/parts/Tabs.svelte';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let text = $derived(data.asked.q ?? '');
  let timer: ReturnType<typeof setTimeout> | undefined;
  const past = $derived(data.asked.day !== undefined && data.asked.day < data.today);
  const sites = $derived([...new Set(data.places.map((place) => place.site))].sort());
  const day = $derived(data.asked.day ?? data.today);

  const views = $derived([
    [data.asked.q ? `/on-hand?q=${encodeURIComponent(data.asked.q)}` : '/on-hand', 'By product'],
    [deskAddress(data.asked), 'Every lot and serial']
  ] as const);
  const ONLY = ['free', 'promised', 'held', 'expired', 'under way', 'empty'] as const;
  const COLUMNS = $derived([
    ['product', 'Product', ''],
    ['number', 'Lot or serial', ''],
    ['place', 'Place', ''],
    ['quantity', past ? 'Then here' : 'On hand', 'right'],
    ...(past ? [] : ([['free', 'Free', 'right']] as const)),
    ['expires', 'Expires', ''],
    ['since', 'Since', ''],
    ['state', 'State', '']
  ] as [string, string, string][]);
  const go = (change: DeskFilters) =>
    goto(deskAddress(data.asked, change), { replaceState: true, keepFocus: true, noScroll: true });
  function filter(): void {
    clearTimeout(timer);
    timer = setTimeout(() => narrowTo(deskAddress(data.asked, { q: text.trim() })), 250);
  }
  function sortOf(column: string): 'ascending' | 'descending' | undefined {
    if (data.asked.sort !== column) return undefined;
    return data.asked.down ? 'descending' : 'ascending';
  }
  type Row = (typeof data.rows)[number];
  function stateOf({ underWay, quarantine, state }: Row): string {
    if (underWay) return 'under way';
    if (quarantine) return state === 'usable' ? 'quarantine' : `${state}, quarantine`;
    return state === 'usable' ? '' : state;
  }
</script>

<svelte:head><title>On hand, every lot and serial · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <div class="head">
    <h1>On hand</h1>
    <Tabs label="On hand" items={views} />
    <span class="acts">
      <a class="act" href={deskFileAddress(data.asked, 'xlsx')} download>XLSX</a>
      <a class="act" href={deskFileAddress(data.asked, 'pdf')} target="_blank" rel="noopener"
        >On paper</a
      >
    </span>
  </div>
  <div class="bar">
    <label
      ><span class="visually-hidden">Only what holds this text</span><input
        class="field find"
        placeholder="Only product, number or place …"
        bind:value={text}
        oninput={filter}
        spellcheck="false"
      /></label
    >
    <label class="stack"
      >site<select
        class="field"
        value={data.asked.site ?? ''}
        onchange={(event) => go({ site: event.currentTarget.value })}
        ><option value="">all</option>{#each sites as site (site)}<option value={site}
            >{site}</option
          >{/each}</select
      ></label
    >
    <label class="stack"
      >place<PlaceChoice
        places={data.places}
        value={data.asked.place ?? ''}
        none="all"
        onchange={(place) => go({ place })}
      /></label
    >
    <DateField
      label="at the end of"
      max={data.today}
      value={day}
      onday={(asked) => go({ day: asked === data.today ? '' : asked })}
    />
  </div>
  <p class="only" role="group" aria-label="Only">
    {#each ONLY as one (one)}{#if !past || (one !== 'free' && one !== 'promised')}<a
          class="chip"
          href={deskAddress(data.asked, { only: data.asked.only === one ? '' : one })}
          aria-current={data.asked.only === one ? 'true' : undefined}
          data-sveltekit-replacestate
          data-sveltekit-noscroll>{one}</a
        >{/if}{/each}
    {#if data.asked.product}<a class="chip" href={deskAddress(data.asked, { product: '' })}
        >product <b class="number">{data.asked.product}</b> ×<span class="visually-hidden"
          >: show all again</span
        ></a
      >{/if}
    <span class="soft small"
      >{past ? `as it stood on ${sayDay(day)} · ` : ''}{count(data.count, 'row')}{data.sums
        .length === 1
        ? ` · ${sayQuantity(data.sums[0]!.quantity)} ${data.sums[0]!.unit}`
        : ''}</span
    >
  </p>
  <WideTable of="lots and serials">
    <table class="plain middle">
      <thead
        ><tr
          >{#each COLUMNS as [column, says, side] (column)}<th
              scope="col"
              class={side}
              aria-sort={sortOf(column)}
              ><button onclick={() => go(sortedBy(data.asked, column))}
                >{says}<span aria-hidden="true"
                  >{#if sortOf(column)}{data.asked.down ? ' ↓' : ' ↑'}{/if}</span
                ></button
              ></th
            >{/each}</tr
        ></thead
      >
      <tbody>
        {#each data.rows as row (`${row.id} ${row.place}`)}<tr>
            <td
              ><a class="number" href="/history?product={encodeURIComponent(row.product)}"
                >{row.product}</a
              ><br /><span class="small soft">{row.name}</span></td
            >
            <td
              ><Tag
                kind={row.kind}
                number={row.number}
                under={row.lot ? `lot ${row.lot}` : row.product}
                state={row.state}
                href="/marks/{row.id}"
              /></td
            >
            <td
              ><a class="number" href="/history?place={encodeURIComponent(row.place)}"
                >{row.place}</a
              ></td
            >
            <td class="right"
              ><span class="number">{sayQuantity(row.quantity)}</span>
              <span class="small soft">{row.unit}</span></td
            >
            {#if !past}<td class="right"
                ><span class="number">{sayQuantity(row.free ?? '0')}</span>
                <span class="small soft">{row.unit}</span
                >{#if row.promised && row.promised !== '0'}<br /><span class="small soft"
                    >{sayAmount(row.promised, row.unit)} promised</span
                  >{/if}</td
              >{/if}
            <td
              >{#if row.expires}<span class:stop={row.expires < day}>{sayDay(row.expires)}</span><br
                /><span class="small" class:stop={row.expires < day} class:soft={row.expires >= day}
                  >{sayDistance(row.expires, day)}</span
                >{/if}</td
            >
            <td class="small">{sayDay(row.since)}</td>
            <td><span class="stop small">{stateOf(row)}</span></td>
          </tr>{:else}<tr
            ><td colspan={COLUMNS.length} class="none"
              >Nothing {past ? 'was' : 'is'} here by that.
              <a href="/on-hand/rows">Show everything</a></td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <Cut
    shown={data.rows.length}
    total={data.count}
    of="rows"
    rest="narrow them, or have all of them as a file"
  />
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
    align-items: baseline;
    gap: 22px;
    flex-wrap: wrap;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .bar {
    display: flex;
    align-items: end;
    gap: 14px;
    flex-wrap: wrap;
  }
  .find {
    width: 280px;
  }
  .only {
    display: flex;
    align-items: center;
    gap: 8px;
    flex-wrap: wrap;
  }
  .chip {
    padding: 7px 12px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--paper);
    color: var(--ink);
    text-decoration: none;
  }
  .chip[aria-current] {
    border-color: var(--brass);
    box-shadow: inset 0 -2px 0 var(--brass);
    font-weight: 600;
  }
  th button {
    border: 0;
    background: none;
    padding: 4px 0;
    min-height: 32px;
    font: inherit;
    color: inherit;
    cursor: pointer;
  }
  th button:hover {
    color: var(--ink);
    text-decoration: underline;
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
