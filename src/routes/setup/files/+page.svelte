<script lang="ts">
  import ImportTable from '$lib/ui/parts/ImportTable.svelte';
  let { data } = $props();

  const SAYS: Record<string, string> = {
    'purchase-orders': 'purchase orders',
    'work-orders': 'work orders',
    'sales-orders': 'sales orders',
    openings: 'opening stock'
  };
  const HINTS: Record<string, string> = {
    people:
      'A row for each person; several roles with commas between. A file carries no passwords: they are given in Setup → People.',
    'numbering-schemes':
      'The number is written as it looks: RS-{year 2}{week}-{count 4}. The next count lets it go on where the old system stopped.',
    'marking-plans':
      'A row for each plan, or for each fact it asks for; what is left empty is as in the plain plan of its marking.',
    specs:
      'A row for each characteristic; rows that name a customer are that customer’s own limits.',
    bills: 'A row for each part; rows of one product make its bill.',
    openings:
      'A row for each lot or serial at each place. “Since” says when it came to lie there: each day becomes an event of its own. The same file is booked once.'
  };
  const table = $derived(data.tables.find((one) => one.kind === data.kind)!);
  const said = (kind: string, what: readonly string[]) => SAYS[kind] ?? what[1]!;
</script>

<svelte:head><title>From files · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>From files</h1>
    <a class="act" href="/api/v1/imports/{data.kind}?format=xlsx" download>Template, XLSX</a>
    <a class="act" href="/api/v1/imports/{data.kind}?format=csv" download>Template, CSV</a>
  </div>
  <p class="soft">
    An empty Earmark is filled from a folder of spreadsheets, in this order. Every file is checked
    row by row before anything is written.
  </p>
  <nav aria-label="Tables">
    <ol>
      {#each data.tables as one (one.kind)}<li>
          <a
            href="?kind={one.kind}"
            aria-current={one.kind === data.kind ? 'page' : undefined}
            data-sveltekit-noscroll>{said(one.kind, one.what)}</a
          >
        </li>{/each}
    </ol>
  </nav>
  {#if HINTS[data.kind]}<p class="hint">{HINTS[data.kind]}</p>{/if}
  {#if table.mine}
    {#key data.kind}<ImportTable kind={data.kind} what={table.what} columns={data.columns} />{/key}
  {:else}
    <p class="refused">Your role does not bring in {said(table.kind, table.what)}.</p>
  {/if}
</div>

<style>
  .setup {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
    align-content: start;
  }
  .head .act + .act {
    margin-left: 0;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    counter-reset: step;
  }
  li a {
    display: block;
    padding: 8px 12px;
    border: 1px solid var(--line);
    background: var(--paper);
    text-decoration: none;
    font-size: 14px;
  }
  li a::before {
    counter-increment: step;
    content: counter(step) ' ';
    font-family: var(--mono);
    color: var(--ink-soft);
  }
  li a[aria-current='page'] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--panel);
  }
  li a[aria-current='page']::before {
    color: var(--panel);
  }
  .hint {
    max-width: 80ch;
  }
</style>
