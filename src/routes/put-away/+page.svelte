<script lang="ts">
  import Cut from '$lib/ui/parts/Cut.svelte';
  import MovingSheet from '$lib/ui/stock/MovingSheet.svelte';
  import { partKey, type Part } from '$lib/ui/stock/moving.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';

  let { data } = $props();
  const WHY = {
    'same mark': 'the same lies there',
    'same lot': 'its lot lies there',
    'same product': 'the product lies there',
    room: 'there is room'
  };
  const begin = $derived(
    data.waiting.rows.map((row): Part => ({
      row,
      to: row.proposal?.place ?? '',
      quantity: row.quantity,
      going: row.proposal !== null
    }))
  );
  const why = $derived(
    new Map(
      data.waiting.rows.flatMap((row) =>
        row.proposal
          ? [[`${partKey(row)} ${row.proposal.place}`, WHY[row.proposal.why]] as const]
          : []
      )
    )
  );
</script>

<svelte:head><title>Put away · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <div class="top">
    <h1>
      Put away{#if data.event}
        · event {data.event}{/if}
    </h1>
    {#if data.event}<a href="/put-away">Everything that waits</a>{/if}
    <a href="/receive">Back to Receive</a>
  </div>
  <div class="cut">
    <Cut
      shown={data.waiting.rows.length}
      total={data.waiting.total}
      of="lots and serials that wait"
      rest="put these away, and the next come"
    />
  </div>
  {#key data.sheet}
    <MovingSheet
      kind="put away"
      sheet={data.sheet}
      {begin}
      {why}
      places={data.places}
      draft={data.draft}
      today={data.today}
      mayBook={data.mayBook}
      document="PUT-AWAY"
      none="Nothing waits at a dock. What is received at a dock place stands here until it lies where it is kept."
    />
  {/key}
</div>

<style>
  .screen {
    display: flex;
    flex-direction: column;
    min-height: calc(100% - 52px);
  }
  .top {
    display: flex;
    gap: 18px;
    align-items: baseline;
    padding: 16px 22px 10px;
    flex-wrap: wrap;
  }
  .top a {
    font-size: 14px;
  }
  .cut {
    padding: 0 22px;
  }
</style>
