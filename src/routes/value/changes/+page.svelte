<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { goto } from '$app/navigation';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { sayMoney } from '$lib/core/quantity/say-money.ts';
  import { sayCostChange } from '$lib/core/stock/costs/say-change.ts';
  import { addressOf } from '$lib/ui/parts/address-of.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import ValueHead from '$lib/ui/stock/ValueHead.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const period = $derived({ from: data.from, to: data.to });
  const go = (change: Record<string, string>) =>
    goto(addressOf('/value/changes', { ...period, ...change }), {
      keepFocus: true,
      noScroll: true
    });
  const file = (format: string) => addressOf('/api/v1/value/changes', { ...period, format });
</script>

<svelte:head><title>What changed the value · Earmark</title></svelte:head>
<ValueHead>
  <div class="bar">
    <DateField label="from" max={data.to} value={data.from} onday={(from) => go({ from })} />
    <DateField label="to" min={data.from} value={data.to} onday={(to) => go({ to })} />
    <span class="acts">
      <a class="act" href={file('xlsx')} download>XLSX</a>
      <a class="act" href={file('pdf')} target="_blank" rel="noopener">PDF</a>
    </span>
  </div>
  {#if data.sums.length > 0}<dl class="sums">
      {#each data.sums as { kind, amount, unknown } (kind)}<div>
          <dt>{kind}</dt>
          <dd>
            <b class="number">{sayMoney(amount)}</b>
            <span class="small soft">{data.currency ?? ''}</span>
            {#if unknown > 0}<span class="stop small">and {unknown} of unknown cost</span>{/if}
          </dd>
        </div>{/each}
    </dl>{/if}
  <WideTable of="what changed it">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">What</th><th scope="col">Lot or serial</th><th scope="col" class="right"
            >How much</th
          ><th scope="col" class="right">Cost of one</th><th scope="col" class="right">Amount</th
          ><th scope="col">Why, and who</th></tr
        ></thead
      >
      <tbody>
        {#each data.rows as row (`${row.event} ${row.mark} ${row.costAfter}`)}<tr>
            <td
              ><a href="/events/{row.event}"
                >{row.kind} <span class="number">{row.document}</span></a
              ><br /><span class="small soft">{sayDay(row.day)}</span></td
            >
            <td
              >{#if row.marks > 1}<a href="/events/{row.event}"
                  >{count(row.marks, 'lot or serial', 'lots and serials')}</a
                >{:else}<a class="number" href="/marks/{row.mark}">{row.number ?? row.product}</a
                >{/if}<br /><span class="small soft">{row.product} {row.name}</span></td
            >
            <td class="right"
              ><span class="number">{sayQuantity(row.quantity)}</span>
              <span class="small soft">{row.unit}</span></td
            >
            <td class="right number">{sayCostChange(row)}</td>
            <td class="right"
              >{#if row.amount === null}<span class="stop">not known</span>{:else}<b class="number"
                  >{sayMoney(row.amount)}</b
                >{/if}{#if row.gone && row.gone !== '0'}<br /><span class="small soft"
                  >{sayMoney(row.gone)} of what had left</span
                >{/if}</td
            >
            <td
              >{row.reason ?? ''}<br /><span class="small soft"
                >{row.by}{row.approvedBy ? `, approved by ${row.approvedBy}` : ''}</span
              ></td
            >
          </tr>{:else}<tr
            ><td colspan="6" class="none"
              >Nothing was gained, lost, scrapped or revalued from {sayDay(data.from)} to {sayDay(
                data.to
              )}.</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <Cut
    shown={data.rows.length}
    total={data.count}
    of="changes"
    rest="the sums above are of all; the file has every one"
  />
</ValueHead>

<style>
  .bar {
    display: flex;
    align-items: end;
    gap: 18px;
    flex-wrap: wrap;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .sums {
    display: flex;
    gap: 28px;
    flex-wrap: wrap;
  }
  .sums dt {
    color: var(--ink-soft);
    font-size: 13px;
  }
  .sums dd {
    margin: 0;
    font-size: 17px;
  }
  .none {
    padding: 24px 10px;
    color: var(--ink-soft);
  }
</style>
