<script lang="ts">
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { count, dayOfInstant, sayTime } from '$lib/ui/parts/say.ts';
  import MovingSheet from '$lib/ui/stock/MovingSheet.svelte';
  import StockNav from '$lib/ui/stock/StockNav.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Move · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <h1>Move</h1>
  <MovingSheet
    kind="move"
    sheet="move"
    begin={[]}
    takes={data.takes}
    places={data.places}
    draft={data.draft}
    today={data.today}
    mayBook={data.mayBook}
    document="MOVE-{data.today}"
    none="Scan what is to be moved, then the place it goes to; or take everything at a place. A lot may go in part, serials by range."
  />
  {#if data.lately.length > 0}<section>
      <h2>Moved lately</h2>
      <ul>
        {#each data.lately as one (one.event)}<li>
            <a href="/events/{one.event}"
              ><b>{one.kind}</b> <span class="number">{one.document}</span></a
            >
            <span class="soft small"
              >{count(one.marks, 'mark')} to {one.places.join(', ')} · {sayDay(
                dayOfInstant(one.at)
              )}, {sayTime(one.at)} · {one.by}</span
            >
          </li>{/each}
      </ul>
    </section>{/if}
</div>

<style>
  section {
    padding: 18px 22px;
  }
  section h2 {
    border-bottom: 1px solid var(--line);
    padding-bottom: 6px;
  }
  li {
    padding: 7px 0;
    border-bottom: 1px solid #ebe5da;
  }
  .screen {
    display: flex;
    flex-direction: column;
    min-height: calc(100% - 52px);
  }
  h1 {
    padding: 16px 22px 10px;
  }
</style>
