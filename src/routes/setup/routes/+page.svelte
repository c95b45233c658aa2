<script lang="ts">
  import { page } from '$app/state';
  import RouteEditor from '$lib/ui/catalogue/RouteEditor.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  /** Code of the route that is changed; '' for a new one, null for none. */
  let editing = $state<string | null>(null);
  const wanted = $derived(page.url.searchParams.get('route'));
</script>

<svelte:head><title>Routes · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Routes of stations</h1>
    <a class="act" href="/build/floor">The floor</a>{#if data.mayEdit}<button
        class="act main"
        disabled={editing !== null}
        onclick={() => (editing = '')}>New route</button
      >{/if}
  </div>
  <p class="soft small">
    A unit goes through the stations of its product’s route in order. Its tag carries its GTIN and a
    number of its own (SGTIN-96), and its last station.
  </p>
  {#if editing === ''}<RouteEditor route={null} onclose={() => (editing = null)} />{/if}
  <ul>
    {#each data.routes as route (route.code)}
      <li class:wanted={route.code === wanted}>
        {#if editing === route.code}<RouteEditor {route} onclose={() => (editing = null)} />
        {:else}
          <div class="top">
            <h2><b class="number">{route.code}</b> {route.name}</h2>
            {#if data.mayEdit}<button
                class="act quiet"
                aria-label="Change {route.code}"
                disabled={editing !== null}
                onclick={() => (editing = route.code)}>Change</button
              >{/if}
          </div>
          <ol>
            {#each route.stations as station, index (station.code)}<li class="station">
                <span class="number small soft">{index + 1} · {station.code}</span>
                <a href="/build/floor/stations/{encodeURIComponent(station.code)}">{station.name}</a
                >
                <span class="small soft">{count(station.units, 'unit')} went through</span>
              </li>{/each}
          </ol>
          <p class="small">
            {#if route.products.length > 0}<span class="soft">Taken by</span>
              {#each route.products as product (product)}<a
                  class="number product"
                  href="/setup/products/{encodeURIComponent(product)}">{product}</a
                >{/each}
            {:else}<span class="soft">No product takes it yet.</span>{/if}
          </p>
        {/if}
      </li>
    {:else}<li class="soft">
        No routes yet. With one, every unit named ahead on a work order is followed from station to
        station.
      </li>{/each}
  </ul>
</div>

<style>
  ul {
    display: grid;
    gap: 4px;
    margin-top: 8px;
  }
  ul > li {
    border-top: 1px solid var(--line);
    padding: 12px 0 16px;
    display: grid;
    gap: 10px;
    min-width: 0;
  }
  .wanted {
    border-top: 3px solid var(--brass);
  }
  .top {
    display: flex;
    gap: 14px;
    align-items: center;
  }
  h2 {
    font-size: 16px;
    color: var(--ink);
  }
  h2 b {
    margin-right: 6px;
  }
  .top .act {
    margin-left: auto;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 12px 34px;
  }
  .station {
    position: relative;
    display: grid;
    gap: 2px;
    padding: 10px 14px;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    min-width: 140px;
  }
  /* The way from one station to the next. */
  .station:not(:last-child)::after {
    content: '';
    position: absolute;
    left: 100%;
    top: 50%;
    width: 35px;
    border-top: 2px solid var(--brass);
  }
  .product {
    margin-left: 10px;
  }
  @media (max-width: 700px) {
    ol {
      display: grid;
      gap: 8px;
    }
    .station:not(:last-child)::after {
      display: none;
    }
  }
</style>
