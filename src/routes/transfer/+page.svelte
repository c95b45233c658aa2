<script lang="ts">
  import SendTransfer from '$lib/ui/stock/SendTransfer.svelte';
  import StoreDesk from '$lib/ui/stock/StoreDesk.svelte';
  import TransferList from '$lib/ui/stock/TransferList.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Transfers · Earmark</title></svelte:head>
<StoreDesk title="Transfers between sites">
  {#snippet goesOn()}<TransferList transfers={data.transfers} today={data.today} />{/snippet}
  {#snippet begin()}
    {#if data.mayBook}{#key data.order?.document}<SendTransfer
          order={data.order}
          sites={data.sites}
          today={data.today}
        />{/key}{/if}
  {/snippet}
</StoreDesk>
