<script lang="ts">
  import MoveSheet from '$lib/ui/stock/MoveSheet.svelte';
  import StockNav from '$lib/ui/stock/StockNav.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Move · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <h1>Move</h1>
  <MoveSheet
    kind="move"
    sheet="move"
    begin={[]}
    places={data.places}
    draft={data.draft}
    today={data.today}
    mayBook={data.mayBook}
    document="MOVE-{data.today}"
    none="Scan what is to be moved, then the place it goes to; or take everything at a place. A lot may go in part, serials by range."
  />
</div>

<style>
  .screen {
    display: flex;
    flex-direction: column;
    min-height: calc(100% - 52px);
  }
  h1 {
    padding: 16px 22px 10px;
  }
</style>
