<script lang="ts">
  import Live from '$lib/ui/frame/Live.svelte';
  import StationCharts from '$lib/ui/making/StationCharts.svelte';
  import { sayLong } from '$lib/ui/making/floor-words.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const floor = $derived(data.floor);
  const last = $derived(floor.stations.at(-1)?.id);
  const begun = $derived(floor.units.filter((unit) => unit.station !== null));
  /** How many there are of those that are asked for, listed or not. */
  const countOf = (asked: (one: (typeof floor.counts)[number]) => boolean): number =>
    floor.counts.filter(asked).reduce((sum, one) => sum + one.count, 0);
  const all = $derived(countOf(() => true));
  const notBegun = $derived(countOf((one) => one.station === null));
  /** The first of those that have not begun. */
  const named = $derived(floor.units.filter((unit) => unit.station === null).slice(0, 12));
  const aside = $derived(
    countOf((one) => one.station !== null && (one.state === 'held' || one.state === 'rework'))
  );
  const done = $derived(countOf((one) => one.station === last && one.state === 'finished'));
  /** Where a unit stands longest first; what is finished at the last station is done. */
  const at = (station: number) => begun.filter((unit) => unit.station === station);
  const SAYS: Record<string, string> = {
    waiting: 'waits',
    running: 'running',
    finished: 'finished',
    held: 'held',
    rework: 'rework'
  };
</script>

<svelte:head><title>The floor · Build · Earmark</title></svelte:head>
<Live of={['ledger']} only="floor:now" />
<div class="screen">
  <div class="head">
    <h1>
      The floor{#if floor.route}: {floor.route.name}{/if}
    </h1>
    {#if floor.routes.length > 1}<nav aria-label="Routes">
        {#each floor.routes as one (one.code)}<a
            href="?route={encodeURIComponent(one.code)}"
            aria-current={one.code === floor.route?.code ? 'page' : undefined}>{one.name}</a
          >{/each}
      </nav>{/if}
    <p class="soft" role="status">
      {count(all - notBegun - done, 'unit')} on the way{#if aside > 0}, <b class="stop"
          >{aside} set aside</b
        >{/if}{#if notBegun > 0}, {notBegun} not begun{/if}
    </p>
    {#if data.mayEdit}<a class="act" href="/setup/routes">Routes</a>{/if}
  </div>
  {#if !floor.route}
    <p class="empty">
      There is no route of stations yet. {#if data.mayEdit}<a href="/setup/routes">Set one up</a>,
        and every unit named on a work order is seen here as its tag is read.{:else}A coordinator
        sets one up under Setup.{/if}
    </p>
  {:else}
    <Cut shown={floor.units.length} total={all} of="units" rest="those that stand longest first" />
    <div class="board">
      {#each floor.stations as station (station.id)}
        {@const here = at(station.id).slice(0, 40)}
        {@const stand = countOf((one) => one.station === station.id)}
        <section aria-label={station.name}>
          <h2>
            <a href="/build/floor/stations/{encodeURIComponent(station.code)}">{station.name}</a
            ><span>{stand}</span>
          </h2>
          <ul>
            {#each here as unit (unit.id)}
              <li class={unit.state}>
                <a href="/build/{encodeURIComponent(unit.order)}"
                  ><b class="number">{unit.number}</b><span class="row small"
                    ><span class="state">{SAYS[unit.state ?? '']}</span><span
                      >{unit.since ? sayLong(unit.since, data.now) : ''}</span
                    ></span
                  ></a
                >
              </li>
            {:else}<li class="none">Nobody here.</li>{/each}
          </ul>
          {#if stand > here.length}<p class="small soft more">
              and {stand - here.length} more
            </p>{/if}
        </section>
      {/each}
    </div>
    {#if notBegun > 0}<p class="small soft">
        Not begun: {named.map((unit) => unit.number).join(', ')}{notBegun > named.length
          ? ` and ${notBegun - named.length} more`
          : ''}.
      </p>{/if}
    <StationCharts stations={floor.stations} />
  {/if}
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    gap: 16px;
    align-content: start;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 22px;
  }
  .head .act {
    margin-left: auto;
  }
  nav {
    display: flex;
    gap: 12px;
  }
  nav a[aria-current] {
    font-weight: 600;
    color: var(--ink);
    text-decoration: none;
  }
  .board {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(170px, 1fr);
    gap: 0;
    overflow-x: auto;
    border: 1px solid var(--line);
  }
  .board section {
    border-left: 1px solid var(--line);
    background: var(--paper);
    min-height: 220px;
  }
  .board section:first-child {
    border-left: 0;
  }
  .board h2 {
    display: flex;
    justify-content: space-between;
    padding: 10px 12px;
    font-size: 15px;
    border-bottom: 2px solid var(--ink);
    background: var(--panel);
  }
  .board h2 a {
    color: var(--ink);
  }
  .board ul {
    padding: 8px;
    display: grid;
    gap: 6px;
  }
  .board li a {
    display: grid;
    gap: 1px;
    padding: 7px 10px;
    background: var(--panel);
    border: 1px solid var(--line);
    border-left: 4px solid var(--line-strong);
    color: var(--ink);
    text-decoration: none;
  }
  .board li a:hover {
    border-color: var(--brass);
  }
  .board .running a {
    border-left-color: var(--brass);
  }
  .board .finished a {
    border-left-color: var(--sea);
  }
  .board .held a {
    border-left-color: var(--rust);
    background: repeating-linear-gradient(45deg, #fff 0 7px, #fbece8 7px 11px);
  }
  .board .rework a {
    border-left-color: #b98512;
    background: var(--amber);
  }
  .row {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    color: var(--ink-soft);
  }
  .held .state,
  .rework .state {
    color: var(--rust);
    font-weight: 600;
  }
  .finished .state {
    color: var(--sea);
  }
  .none {
    color: var(--ink-soft);
    font-size: 14px;
    padding: 8px;
  }
  .more {
    padding: 0 12px 8px;
  }
  .empty {
    color: var(--ink-soft);
    padding: 30px 0;
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
    }
  }
</style>
