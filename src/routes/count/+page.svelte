<script lang="ts">
  import { goto } from '$app/navigation';
  import { sayDistance } from '$lib/core/calendar/say-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, dayOfInstant } from '$lib/ui/parts/say.ts';
  import StoreDesk from '$lib/ui/stock/StoreDesk.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let chosen = $state.raw<ReadonlySet<string>>(new Set());
  $effect(() => {
    if (data.wanted) chosen = new Set([data.wanted]);
  });
  let document = $state('');
  let products = $state('');
  let lots = $state('');
  let blind = $state(false);
  let busy = $state(false);
  let refused = $state.raw<string[]>([]);
  const proposed = $derived(`C-${data.today.slice(2).replaceAll('-', '')}`);
  const listed = (text: string) => text.split(/[\s,;]+/).filter(Boolean);
  const ready = $derived(chosen.size > 0 || listed(products).length > 0 || listed(lots).length > 0);

  function tick(code: string, on: boolean): void {
    const next = new Set(chosen);
    if (on) next.add(code);
    else next.delete(code);
    chosen = next;
  }
  async function open(): Promise<void> {
    if (!ready || busy) return;
    busy = true;
    const reply = await send<{ count: { document: string } }>('POST', '/api/v1/counts', {
      document: document.trim() || proposed,
      ...(chosen.size > 0 ? { places: [...chosen] } : {}),
      ...(listed(products).length > 0 ? { products: listed(products) } : {}),
      ...(listed(lots).length > 0 ? { lots: listed(lots) } : {}),
      blind
    });
    busy = false;
    if (reply.ok) await goto(`/count/${encodeURIComponent(reply.body.count.document)}`);
    else refused = messagesOf(reply.refusal);
  }
  const openSays = $derived.by(() => {
    if (chosen.size === 1) return `Count ${[...chosen][0]}`;
    if (chosen.size > 0) return `Count ${count(chosen.size, 'place')}`;
    return ready ? 'Count where they lie' : 'Choose what to count';
  });
  const exact = ({ lines, right }: { lines: number; right: number }) =>
    lines === 0 ? 100 : Math.floor((right / lines) * 100);
  const opened = $derived(data.counts.rows.filter((row) => row.state === 'open'));
  const ended = $derived(data.counts.rows.filter((row) => row.state !== 'open'));
</script>

<svelte:head><title>Counts · Earmark</title></svelte:head>
<StoreDesk title="Counts">
  {#snippet goesOn()}
    <h2>Being counted <span>{opened.length}</span></h2>
    <ul data-list>
      {#each opened as one (one.document)}<li>
          <a href="/count/{encodeURIComponent(one.document)}"
            ><b class="number">{one.document}</b>
            <span class="soft small"
              >{one.placesNamed.join(', ')}{one.places > one.placesNamed.length
                ? ` and ${one.places - one.placesNamed.length} more`
                : ''} · {one.placesDone} of {count(one.places, 'place')} done{one.blind
                ? ' · blind'
                : ` · ${one.off} off`} · {one.openedBy}, {sayDistance(
                dayOfInstant(one.openedAt),
                data.today
              )}</span
            ></a
          >
        </li>{:else}<li class="soft">
          Nothing is being counted. Choose places beside this, those not counted longest first, and
          open a count.
        </li>{/each}
    </ul>
    {#if ended.length > 0}
      <h2>Ended lately</h2>
      <ul>
        {#each ended.slice(0, 12) as one (one.document)}<li>
            <a href="/count/{encodeURIComponent(one.document)}"
              ><b class="number">{one.document}</b>
              <span class="soft small"
                >{one.state}{one.state === 'approved'
                  ? `, ${one.entries - one.off} of ${count(one.entries, 'line')} right`
                  : ''} · {one.placesNamed.join(', ')}</span
              ></a
            >
          </li>{/each}
      </ul>
      <Cut
        shown={Math.min(ended.length, 12) + opened.length}
        total={data.counts.total}
        of="counts"
        rest="a place’s own counts stand beside it"
      />
    {/if}
  {/snippet}
  {#snippet begin()}
    <h2>Places, not counted longest first</h2>
    {#if data.mayCount}
      <form
        class="open"
        onsubmit={(event) => {
          event.preventDefault();
          void open();
        }}
      >
        <label class="stack"
          >number of the count<input
            class="field number"
            bind:value={document}
            placeholder={proposed}
            maxlength="60"
          /></label
        >
        <label class="stack"
          >only these products<input
            class="field number"
            bind:value={products}
            placeholder="all"
            spellcheck="false"
          /></label
        >
        <label class="stack"
          >only these lots<input
            class="field number"
            bind:value={lots}
            placeholder="all"
            spellcheck="false"
          /></label
        >
        <label class="check"
          ><input type="checkbox" bind:checked={blind} /> blind: what should be there is not shown</label
        >
        <button class="act main" disabled={!ready || busy}>{openSays}</button>
      </form>
      {#each refused as message, index (index)}<p class="refused" role="alert">
          {message}
        </p>{/each}
    {/if}
    <WideTable of="places">
      <table class="plain middle">
        <thead
          ><tr
            >{#if data.mayCount}<th scope="col"><span class="visually-hidden">Count</span></th
              >{/if}<th scope="col">Place</th><th scope="col" class="right">Lies there</th><th
              scope="col">Counted</th
            ><th scope="col">Right, count by count</th></tr
          ></thead
        >
        <tbody>
          {#each data.places.rows as place (place.code)}<tr>
              {#if data.mayCount}<td class="tick"
                  ><input
                    type="checkbox"
                    checked={chosen.has(place.code)}
                    disabled={place.openIn !== null}
                    aria-label="Count {place.code}"
                    onchange={(event) => tick(place.code, event.currentTarget.checked)}
                  /></td
                >{/if}
              <td
                ><b class="number">{place.code}</b>
                <span class="soft small">{place.siteName}, {place.name}</span></td
              >
              <td class="right"
                ><span class="number">{place.marks}</span>
                <span class="soft small">{place.marks === 1 ? 'mark' : 'marks'}</span></td
              >
              <td class="small"
                >{#if place.openIn}<a href="/count/{encodeURIComponent(place.openIn)}"
                    >in {place.openIn}</a
                  >{:else if place.countedOn}{sayDistance(place.countedOn, data.today)}{:else}<span
                    class="soft">never</span
                  >{/if}</td
              >
              <td
                >{#each place.counts as one (one.document)}<a
                    class={['exact', 'number', one.lines > one.right && 'off']}
                    href="/count/{encodeURIComponent(one.document)}"
                    title="{one.document}: {one.right} of {one.lines} right">{exact(one)} %</a
                  >{/each}</td
              >
            </tr>{/each}
        </tbody>
      </table>
    </WideTable>
    <Cut
      shown={data.places.rows.length}
      total={data.places.total}
      of="places"
      rest="these were not counted longest"
    />
  {/snippet}
</StoreDesk>

<style>
  .open {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  .open .field {
    width: 150px;
  }
  .check {
    display: flex;
    gap: 6px;
    align-items: center;
    font-size: 14px;
    min-height: 40px;
  }
  .tick {
    width: 40px;
  }
  .tick input {
    width: 24px;
    height: 24px;
    accent-color: var(--brass);
  }
  .exact {
    display: inline-block;
    margin-right: 8px;
    color: var(--sea);
    font-size: 14px;
  }
  .exact.off {
    color: var(--rust);
  }
  @media (max-width: 900px) {
  }
</style>
