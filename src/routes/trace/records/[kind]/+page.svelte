<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { RECORDS, type RecordColumn, type RecordList } from '$lib/core/exchange/records.ts';
  import { RIGHTS } from '$lib/core/people/rights.ts';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import SubNav from '$lib/ui/parts/SubNav.svelte';
  import { sayInstant } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const list = $derived<RecordList>(RECORDS[data.kind]);
  const pages = $derived(
    data.kinds.map((kind) => [`/trace/records/${kind}`, RECORDS[kind].title] as const)
  );
  const { from, to, day, q = '', right = '' } = $derived(data.asked);
  const query = $derived(
    new URLSearchParams(
      Object.entries(list.asks === 'day' ? { day, q, right } : { from, to, q }).filter(
        ([, value]) => value !== ''
      )
    )
  );
  const file = (format: string) => `/api/v1/records/${data.kind}?${query}&format=${format}`;
  /** Days and instants as they are said; all else as it stands. */
  const say = ({ key }: RecordColumn, text: string): string => {
    if (key === 'at' || key === 'since') return text && sayInstant(text);
    return /^\d{4}-\d\d-\d\d$/.test(text) ? sayDay(text) : text;
  };
  /** Told in one line; the others are sentences and names, and break. */
  const ONE_LINE = new Set(
    ['day', 'document', 'product', 'number', 'lot', 'quantity', 'unit', 'at', 'since'].concat(
      ...['field', 'was', 'is', 'kind', 'amount', 'login', 'address']
    )
  );
  // What no row says needs no room.
  const columns = $derived(
    list.columns.filter(({ key }) => data.rows.length === 0 || data.rows.some((row) => row[key]))
  );
</script>

<svelte:head><title>{list.title} · Records · Earmark</title></svelte:head>
<SubNav label="Records" items={pages} />
<div class="page">
  <div class="page-head">
    <h1>{list.title}</h1>
    <p class="soft">{list.says}</p>
    <span class="page-acts"
      ><a class="act" href={file('csv')} download>CSV</a><a class="act" href={file('xlsx')} download
        >XLSX</a
      ></span
    >
  </div>
  <form class="field-row">
    {#if list.asks === 'day'}
      <DateField label="at the end of" name="day" value={day} max={data.today} />
      <label class="stack"
        >who had the right<select class="field" name="right" value={right}
          ><option value="">any</option>{#each RIGHTS as one (one)}<option>{one}</option
            >{/each}</select
        ></label
      >
    {:else}
      <DateField label="from" name="from" value={from} />
      <DateField label="until" name="to" value={to} />
    {/if}
    <label class="stack"
      >{list.asks === 'day' ? 'name or sign-in' : 'partner, document, number or person'}<input
        class="field"
        name="q"
        maxlength="100"
        value={q}
      /></label
    >
    <button class="act main">Show</button>
  </form>
  {#if data.misread}<p class="refused" role="alert">
      Something in the address could not be read; the last thirty days are shown.
    </p>{/if}
  <Cut
    shown={data.rows.length}
    total={data.total}
    of="rows"
    rest="Ask for less, or take the file."
  />

  <WideTable of="records">
    <table class="plain">
      <thead
        ><tr
          >{#each columns as column (column.key)}<th
              scope="col"
              class:right={column.key === 'quantity' || column.key === 'amount'}>{column.says}</th
            >{/each}{#if data.mayProve && data.rows[0]?.event}<th scope="col">proof</th>{/if}</tr
        ></thead
      >
      <tbody data-list>
        {#each data.rows as row, at (at)}<tr>
            {#each columns as column (column.key)}
              {@const text = say(column, row[column.key] ?? '')}
              <td
                class:number={column.as !== undefined}
                class:right={column.key === 'quantity' || column.key === 'amount'}
                class:whole={ONE_LINE.has(column.key)}
                >{#if column.as === 'event' && row.event}<a href="/events/{row.event}">{text}</a
                  >{:else if column.as === 'mark' && row.mark}<a href="/marks/{row.mark}"
                    >{text || 'without number'}</a
                  >{:else}{text}{/if}</td
              >
            {/each}
            {#if data.mayProve && row.event}<td
                ><a
                  href="/api/v1/ledger/proof?event={row.event}"
                  download="proof-of-event-{row.event}.json"
                  aria-label="Proof of event {row.event}">proof</a
                ></td
              >{/if}
          </tr>{:else}<tr
            ><td colspan={columns.length + 1} class="soft"
              >Nothing of that. Ask for other days, or for less.</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
</div>

<style>
  .whole {
    white-space: nowrap;
  }
</style>
