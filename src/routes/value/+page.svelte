<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { goto } from '$app/navigation';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { sayCost, sayMoney } from '$lib/core/quantity/say-money.ts';
  import { addressOf } from '$lib/ui/parts/address-of.ts';
  import AsOf from '$lib/ui/parts/AsOf.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import ValueHead from '$lib/ui/stock/ValueHead.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const BY = [
    ['product', 'Product'],
    ['place', 'Place'],
    ['lot', 'Lot']
  ] as const;
  /** Which filter a row of the list narrows to. */
  const FILTER = { product: 'product', place: 'place', lot: 'number' } as const;
  const narrowed = $derived(Object.entries(data.only).filter(([, value]) => value !== ''));
  const most = $derived(Math.max(0, ...data.groups.map((one) => Number(one.total))));

  const asked = $derived({ ...data.only, day: data.day, by: data.by });
  function address(change: Record<string, string>): string {
    const next = { ...asked, ...change };
    return addressOf('/value', next.by === 'product' ? { ...next, by: '' } : next);
  }
  const file = (format: string) => addressOf('/api/v1/value', { ...asked, format });
  const go = (change: Record<string, string>) =>
    goto(address(change), { keepFocus: true, noScroll: true });
</script>

<svelte:head><title>Value · Earmark</title></svelte:head>
<ValueHead>
  <div class="sum">
    <p>
      <span class="soft small"
        >{data.day ? `at the end of ${sayDay(data.day)}` : 'all that is ours'}</span
      >
      {#if data.value !== ''}<b class="big number">{sayMoney(data.value)}</b>
        <span>{data.currency ?? ''}</span>{/if}
      <span class="soft small"><AsOf at={data.at} underWay={data.underWay} /></span>
    </p>
    {#if data.unknown > 0}<p class="stop">
        and {count(data.unknown, 'lot or serial', 'lots and serials')} whose cost is not known: they are
        in no sum
      </p>{/if}
    <span class="acts">
      <a class="act" href={file('xlsx')} download>XLSX</a>
      <a class="act" href={file('pdf')} target="_blank" rel="noopener">PDF</a>
    </span>
  </div>
  {#if data.currency === null}<p class="tip">
      No currency is set, so gains are booked without asking what they cost. <a
        href="/setup/company">Set it in Setup</a
      > where costs are kept.
    </p>{/if}
  <div class="bar">
    <DateField
      label="at the end of"
      max={data.today}
      value={data.day ?? data.today}
      onday={(day) => go({ day })}
    />
    <fieldset>
      <legend>by</legend>
      {#each BY as [by, says] (by)}<a
          href={address({ by })}
          class="choice"
          aria-current={data.by === by ? 'true' : undefined}>{says}</a
        >{/each}
    </fieldset>
    {#each narrowed as [key, value] (key)}<a class="chip" href={address({ [key]: '' })}
        >{key === 'number' ? 'lot or serial' : key} <b class="number">{value}</b>
        <span aria-hidden="true">×</span><span class="visually-hidden">: show all again</span></a
      >{/each}
  </div>
  <WideTable of="value by product">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">{BY.find(([by]) => by === data.by)![1]}</th><th scope="col" class="right"
            >Ours</th
          ><th scope="col" class="right">Value</th><th scope="col" class="wide"
            ><span class="visually-hidden">Its part</span></th
          >{#if data.unknown > 0}<th scope="col">Not known</th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each data.groups as group (`${group.code} ${group.name}`)}<tr>
            <td
              ><a class="number" href={address({ [FILTER[data.by]]: group.code })}>{group.code}</a>
              <span class="soft">{group.name}</span></td
            >
            <td class="right"
              >{#if group.quantity}<span class="number">{sayQuantity(group.quantity)}</span>
                <span class="small soft">{group.unit}</span>{:else}<span class="soft"
                  >{count(group.marks, 'mark')}</span
                >{/if}</td
            >
            <td class="right number"><b>{sayMoney(group.total)}</b></td>
            <td class="wide"
              ><span
                class="part"
                aria-hidden="true"
                style:width="{most > 0 ? (Number(group.total) / most) * 100 : 0}%"
              ></span></td
            >
            {#if data.unknown > 0}<td
                >{#if group.unknown > 0}<span class="stop small"
                    >{group.unknown} of {group.marks} without a cost</span
                  >{/if}</td
              >{/if}
          </tr>{:else}<tr
            ><td colspan="5" class="none"
              >{data.day
                ? `Nothing was ours at the end of ${sayDay(data.day)}.`
                : 'Nothing is here yet.'}</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <Cut
    shown={data.groups.length}
    total={data.count}
    of="{data.by}s"
    rest="the sum above is of all; the file has every one"
  />
  {#if data.marks}
    <h2>Lots and serials <span class="soft small">{data.marks.count}</span></h2>
    <WideTable of="value by lot">
      <table class="plain middle">
        <thead
          ><tr
            ><th scope="col">Lot or serial</th><th scope="col">Place</th><th
              scope="col"
              class="right">Ours</th
            ><th scope="col" class="right">Cost of one</th><th scope="col" class="right">Value</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.marks.rows as row (`${row.mark.id} ${row.place}`)}<tr>
              <td
                ><Tag
                  kind={row.mark.kind}
                  number={row.mark.number}
                  under="{row.product} {row.name}{row.mark.lot ? ` · lot ${row.mark.lot}` : ''}"
                  state="usable"
                  href="/marks/{row.mark.id}"
                /></td
              >
              <td class="number">{row.place}</td>
              <td class="right"
                ><span class="number">{sayQuantity(row.quantity)}</span>
                <span class="small soft">{row.unit}</span></td
              >
              {#if row.unitCost === null || row.value === null}<td class="right stop" colspan="2"
                  >not known</td
                >{:else}<td class="right number">{sayCost(row.unitCost)}</td>
                <td class="right number"><b>{sayMoney(row.value)}</b></td>{/if}
            </tr>{/each}
        </tbody>
      </table>
    </WideTable>
    <Cut
      shown={data.marks.rows.length}
      total={data.marks.count}
      of="lots and serials"
      rest="the file has every one"
    />
  {/if}
</ValueHead>

<style>
  .sum {
    display: flex;
    align-items: baseline;
    gap: 18px;
    flex-wrap: wrap;
  }
  .big {
    font-size: 28px;
    margin-left: 6px;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .bar {
    display: flex;
    align-items: end;
    gap: 18px;
    flex-wrap: wrap;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: flex;
    align-items: center;
    gap: 4px;
  }
  legend {
    float: left;
    margin-right: 8px;
    color: var(--ink-soft);
  }
  .choice,
  .chip {
    padding: 8px 12px;
    border: 1px solid var(--line);
    border-radius: 4px;
    text-decoration: none;
    color: var(--ink);
    background: var(--paper);
  }
  .choice[aria-current] {
    border-color: var(--brass);
    box-shadow: inset 0 -2px 0 var(--brass);
    font-weight: 600;
  }
  .wide {
    width: 22%;
  }
  .part {
    display: block;
    height: 10px;
    min-width: 1px;
    background: var(--brass);
    opacity: 0.55;
    border-radius: 2px;
  }
  .none {
    padding: 24px 10px;
    color: var(--ink-soft);
  }
</style>
