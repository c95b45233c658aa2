<script lang="ts">
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { ORDER_SCREEN } from '$lib/ui/orders/order-screen.ts';
  import PartnerFacts from '$lib/ui/catalogue/partner/PartnerFacts.svelte';
  import WishesPart from '$lib/ui/catalogue/partner/WishesPart.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const { partner } = $derived(data);
  const roles = $derived(
    [partner.supplier ? 'supplier' : '', partner.customer ? 'customer' : ''].filter(Boolean)
  );
</script>

<svelte:head><title>{partner.name} · Earmark</title></svelte:head>
<div class="screen">
  <div class="head">
    <h1>{partner.name}</h1>
    <span class="soft"><span class="number">{partner.code}</span> · {roles.join(' and ')}</span>
    <a class="act quiet" href="/setup/partners">All partners</a>
  </div>
  {#key partner.code}
    <div>
      <PartnerFacts {partner} tag={data.tag} mayEdit={data.mayEdit} />
      {#if partner.customer}<WishesPart
          {partner}
          wishes={data.wishes}
          tag={data.wishesTag}
          mayEdit={data.mayEdit}
        />{/if}
    </div>
  {/key}
  {#if data.orders.length > 0}<section>
      <h2>Open orders <span>{data.orders.length}</span></h2>
      <p class="orders">
        {#each data.orders as order (order.number)}<a
            href="{ORDER_SCREEN[order.kind]}/{encodeURIComponent(order.number)}"
            ><b class="number">{order.number}</b>
            <span class="small" class:stop={order.due < data.today}
              >due {sayDistance(order.due, data.today)}</span
            ></a
          >{/each}
      </p>
    </section>{/if}
  {#if partner.customer || data.has.total > 0}<section>
      <h2>What they have from us <span>{data.has.total}</span></h2>
      <WideTable of="what they have">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Lot or serial</th><th scope="col" class="right">How much</th><th
                scope="col">Since</th
              ><th scope="col">By</th></tr
            ></thead
          >
          <tbody>
            {#each data.has.rows as row (`${row.mark} ${row.event}`)}<tr>
                <td
                  ><Tag
                    kind={row.kind}
                    number={row.number}
                    under="{row.product} {row.name}{row.lot ? ` · lot ${row.lot}` : ''}"
                    state="usable"
                    href="/marks/{row.mark}"
                  /></td
                >
                <td class="right"
                  ><span class="number">{sayQuantity(row.quantity)}</span>
                  <span class="small soft">{row.unit}</span></td
                >
                <td>{sayDay(row.day)}</td>
                <td><a class="number" href="/events/{row.event}">{row.document}</a></td>
              </tr>{:else}<tr><td colspan="4" class="soft">Nothing of ours is with them.</td></tr
              >{/each}
          </tbody>
        </table>
      </WideTable>
      <Cut
        shown={data.has.rows.length}
        total={data.has.total}
        of="lots and serials"
        rest="the latest stand first"
      />
    </section>{/if}
  {#if partner.supplier || data.sent.length > 0}<section>
      <h2>What they sent us <span>{data.sent.length}</span></h2>
      <WideTable of="what they sent">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Product</th><th scope="col" class="right">In all</th><th scope="col"
                >Lots and serials</th
              ><th scope="col">Receipts</th><th scope="col">Last</th></tr
            ></thead
          >
          <tbody>
            {#each data.sent as row (row.product)}<tr>
                <td
                  ><a class="number" href="/history?product={encodeURIComponent(row.product)}"
                    >{row.product}</a
                  >
                  {row.name}</td
                >
                <td class="right"
                  ><span class="number">{sayQuantity(row.quantity)}</span>
                  <span class="small soft">{row.unit}</span></td
                >
                <td>{row.marks}</td>
                <td>{row.receipts}</td>
                <td>{sayDay(row.last)}</td>
              </tr>{:else}<tr><td colspan="5" class="soft">Nothing has come from them yet.</td></tr
              >{/each}
          </tbody>
        </table>
      </WideTable>
    </section>{/if}
  <section>
    <h2>Everything with them, latest first <span>{data.events.total}</span></h2>
    <ol>
      {#each data.events.rows as one (one.event)}<li>
          <span class="small soft">{sayInstant(one.at)}</span>
          <a href="/events/{one.event}">{one.kind} <span class="number">{one.document}</span></a>
          <span class="soft"
            >{one.marks > 0 ? count(one.marks, 'lot or serial', 'lots and serials') : ''}
            {one.takenBack ? '· taken back, all or in part' : ''}</span
          >
          <span class="small soft">{one.by}</span>
        </li>{:else}<li class="soft">Nothing yet.</li>{/each}
    </ol>
    <Cut
      shown={data.events.rows.length}
      total={data.events.total}
      of="events"
      rest="Setup, From files has the ledger of any period"
    />
  </section>
</div>

<style>
  .screen {
    padding: 18px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 22px;
  }
  .head {
    display: flex;
    align-items: baseline;
    gap: 18px;
    flex-wrap: wrap;
  }
  .head .act {
    margin-left: auto;
  }
  section {
    display: grid;
    gap: 8px;
  }
  .orders {
    display: flex;
    gap: 10px 24px;
    flex-wrap: wrap;
  }
  .orders a {
    text-decoration: none;
    color: var(--ink);
  }
  li {
    display: flex;
    gap: 16px;
    align-items: baseline;
    padding: 7px 0;
    border-bottom: 1px solid #ebe5da;
    flex-wrap: wrap;
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
    }
  }
</style>
