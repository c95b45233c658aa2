<script lang="ts">
  import { narrowTo } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { groupBy } from '$lib/core/group-by.ts';
  import Tabs from '$lib/ui/parts/Tabs.svelte';
  import { deskAddress } from '$lib/ui/stock/desk-address.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();

  /** Product → the lots and serials that are listed; its figures are of all of them. */
  const groups = $derived.by(() => {
    const rowsOf = groupBy(data.rows, (row) => row.product);
    return data.products.map((product) => ({
      ...product,
      rows: rowsOf.get(product.code) ?? []
    }));
  });
  const marks = $derived(data.products.reduce((sum, one) => sum + one.marks, 0));
  const isOpen = (code: string) => data.open.includes(code);

  /** This screen with one product more open, or one less. */
  function toggled(code: string): string {
    const open = isOpen(code) ? data.open.filter((one) => one !== code) : [...data.open, code];
    const query = new URLSearchParams();
    if (data.q) query.set('q', data.q);
    if (data.after) query.set('after', data.after);
    query.set('open', open.join(','));
    return `/on-hand?${query.toString()}`;
  }
</script>

<svelte:head><title>On hand · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <div class="head">
    <h1>On hand</h1>
    <Tabs
      label="On hand"
      items={[
        [data.q ? `/on-hand?q=${encodeURIComponent(data.q)}` : '/on-hand', 'By product'],
        [deskAddress({ q: data.q }), 'Every lot and serial']
      ]}
    />
    <NarrowField
      q={data.q}
      placeholder="Only product, number or place …"
      label="Only what holds this text"
      path="/on-hand"
    />
    <p class="soft small">
      {count(data.total, 'product')}{#if data.total === groups.length}&nbsp;· {count(
          marks,
          'mark'
        )}{/if}{#if data.underWay > 0}&nbsp;· <a href="/transfer"
          >{data.underWay} under way between sites</a
        >{/if}
    </p>
  </div>
  <WideTable of="products">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Product</th><th scope="col">Lot or serial</th><th
            scope="col"
            class="right">On hand</th
          ><th scope="col">Place</th><th scope="col">Expires</th><th scope="col">State</th></tr
        ></thead
      >
      {#each groups as group (group.code)}
        <tbody>
          <tr class="product">
            <th scope="rowgroup"
              ><button
                aria-expanded={isOpen(group.code)}
                onclick={() => narrowTo(toggled(group.code))}
                ><span class="arrow" aria-hidden="true">{isOpen(group.code) ? '▾' : '▸'}</span><b
                  class="number">{group.code}</b
                >
                {group.name}</button
              ></th
            >
            <td class="soft small"
              >{group.marking === 'none'
                ? 'no numbers'
                : count(group.marks, group.marking === 'lot' ? 'lot' : 'serial')}</td
            >
            <td class="right"
              ><b class="number">{sayQuantity(group.quantity)}</b>
              <span class="unit">{group.unit}</span></td
            >
            <td class="soft small"
              >{group.placesNamed.join(', ')}{group.places > group.placesNamed.length
                ? `, ${group.places - group.placesNamed.length} more`
                : ''}</td
            >
            <td
              >{#if group.soonest}{sayDay(group.soonest)}
                <span
                  class="small"
                  class:stop={group.soonest < data.today}
                  class:soft={group.soonest >= data.today}
                  >{sayDistance(group.soonest, data.today)}</span
                >{/if}</td
            >
            <td
              >{#if group.held !== '0'}<span class="stop small"
                  >{sayQuantity(group.held)} held or rejected</span
                >{/if}</td
            >
          </tr>
          {#if isOpen(group.code)}
            {#each group.rows as row (`${row.id} ${row.place}`)}
              <tr>
                <td></td>
                <td
                  ><Tag
                    kind={row.kind}
                    number={row.kind === 'bulk' ? null : row.number}
                    under={row.lot ? `lot ${row.lot}` : row.product}
                    state={row.state}
                    href="/marks/{row.id}"
                  /></td
                >
                <td class="right"
                  ><span class="number">{sayQuantity(row.quantity)}</span>
                  <span class="unit">{group.unit}</span></td
                >
                <td
                  ><span class="number">{row.place}</span>{#if row.quarantine}<br /><b
                      class="stop small">quarantine</b
                    >{/if}</td
                >
                <td
                  >{#if row.expires}<span class:stop={row.expires < data.today}
                      >{sayDay(row.expires)}</span
                    >
                    <span
                      class="small"
                      class:stop={row.expires < data.today}
                      class:soft={row.expires >= data.today}
                      >{sayDistance(row.expires, data.today)}</span
                    >{:else}<span class="soft small">kept without</span>{/if}</td
                >
                <td>{row.state === 'usable' ? '' : row.state}</td>
              </tr>
            {/each}
            {#if group.rows.length < group.marks}<tr
                ><td></td><td colspan="5"
                  ><Cut
                    shown={group.rows.length}
                    total={group.marks}
                    of={group.marking === 'lot' ? 'lots' : 'lots and serials'}
                    rest="every lot and serial shows them all, sorted as you like"
                  /></td
                ></tr
              >{/if}
          {/if}
        </tbody>
      {:else}
        <tbody
          ><tr
            ><td colspan="6" class="none"
              >{data.q
                ? `Nothing on hand holds “${data.q}”.`
                : 'Nothing is on hand yet. What is received or built shows here, by product, number and place.'}</td
            ></tr
          ></tbody
        >
      {/each}
    </table>
  </WideTable>
  <ListPages
    page={{ rows: groups, total: data.total, more: data.more, q: data.q, after: data.after }}
    of="products"
    path="/on-hand"
  />
</div>

<style>
  .screen {
    padding: 18px 24px 32px;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 20px;
    flex-wrap: wrap;
    margin-bottom: 10px;
  }
  .product {
    background: var(--paper);
  }
  .product th {
    padding: 0;
    position: static;
    background: none;
    font-weight: 400;
    color: var(--ink);
    font-size: 15px;
    border-bottom-color: #ebe5da;
  }
  .product button {
    border: 0;
    background: none;
    padding: 9px 10px;
    min-height: 40px;
    cursor: pointer;
    text-align: left;
    width: 100%;
  }
  .arrow {
    display: inline-block;
    width: 18px;
    color: var(--brass);
  }
  .unit {
    font-size: 13px;
    color: var(--ink-soft);
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
