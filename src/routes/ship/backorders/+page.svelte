<script lang="ts">
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import OrdersOf from '$lib/ui/orders/OrdersOf.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Owed to customers · Ship · Earmark</title></svelte:head>
<Working>
  {#snippet list()}<OrdersOf kind="sales" data={data as never} current="" />{/snippet}
  {#snippet sheet()}
    <div class="owed">
      <h1>Still owed to customers</h1>
      <p class="soft">
        Lines shipped in part, or past their day. {data.owed.total === 0
          ? ''
          : `${count(data.owed.covered, 'line')} of ${data.owed.total} can be filled from what is free now.`}
      </p>
      <Cut shown={data.owed.rows.length} total={data.owed.total} of="lines" />
      <WideTable of="owed">
        <table class="plain middle">
          <thead
            ><tr
              ><th scope="col">Order</th><th scope="col">Customer</th><th scope="col">Due</th><th
                scope="col">Product</th
              ><th scope="col" class="right">Ordered</th><th scope="col" class="right">Shipped</th
              ><th scope="col" class="right">Owed</th><th scope="col" class="right">Free now</th><th
                scope="col"><span class="visually-hidden">Next</span></th
              ></tr
            ></thead
          >
          <tbody>
            {#each data.owed.rows as row (`${row.order} ${row.product}`)}
              <tr
                ><td
                  ><a class="number" href="/ship/{encodeURIComponent(row.order)}">{row.order}</a
                  ></td
                ><td>{row.partner ?? ''}</td><td class:stop={row.due < data.today}
                  >{sayDay(row.due)}<br /><span class="small"
                    >{sayDistance(row.due, data.today)}</span
                  ></td
                ><td
                  ><b class="number">{row.product}</b><br /><span class="small soft"
                    >{row.name}</span
                  ></td
                >
                <td class="right number">{sayAmount(row.ordered, row.unit)}</td><td
                  class="right number">{sayAmount(row.shipped, row.unit)}</td
                ><td class="right number"
                  ><b>{sayQuantity(row.left)}</b> <span class="small soft">{row.unit}</span></td
                ><td
                  class="right number"
                  class:good={Number(row.free) >= Number(row.left)}
                  class:stop={row.free === '0'}>{sayAmount(row.free, row.unit)}</td
                >
                <td
                  >{#if row.free !== '0'}<a
                      class="act"
                      href="/ship/{encodeURIComponent(row.order)}/choose">Choose</a
                    >{/if}</td
                ></tr
              >
            {:else}<tr
                ><td colspan="9" class="soft"
                  >Nothing is owed. An order shipped in part, or late, stands here with what is free
                  for it.</td
                ></tr
              >{/each}
          </tbody>
        </table>
      </WideTable>
    </div>
  {/snippet}
</Working>

<style>
  .owed {
    padding: 14px 18px;
    display: grid;
    gap: 10px;
    align-content: start;
  }
</style>
