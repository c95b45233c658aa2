<!-- A table from a file: what it would do, row by row, before anything is written. -->
<script lang="ts">
  import { capital } from '../../core/capital.ts';
  import { fewOf } from './say.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { count } from './say.ts';
  import WideTable from './WideTable.svelte';

  interface Row {
    row: number;
    what: string;
    verdict: 'new' | 'changed' | 'same' | 'fault';
    messages: string[];
  }
  interface Report {
    rows: Row[];
    counts: Record<Row['verdict'], number>;
    passedOver: string[];
    written: boolean;
  }
  interface Props {
    /** Name of the table in the API. */
    kind: string;
    what: [string, string];
    columns: readonly { says: string; required?: boolean }[];
  }
  let { kind, what, columns }: Props = $props();

  let file = $state.raw<File | null>(null);
  let report = $state.raw<Report | null>(null);
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  let onlyFaults = $state(false);
  const SAYS = { new: 'new', changed: 'changes', same: 'as it is', fault: 'cannot be taken' };
  const good = $derived(report ? report.counts.new + report.counts.changed : 0);
  const shown = $derived(
    report ? report.rows.filter((row) => !onlyFaults || row.verdict === 'fault') : []
  );
  const MOST = 500;

  async function run(mode: 'check' | 'write' | 'write-good'): Promise<void> {
    if (!file) return;
    busy = true;
    refused = [];
    const reply = await send<Report>('POST', `/api/v1/imports/${kind}?mode=${mode}`, file);
    report = reply.ok ? reply.body : null;
    if (!reply.ok) refused = messagesOf(reply.refusal);
    busy = false;
  }
  function choose(list: FileList | null): void {
    file = list?.[0] ?? null;
    report = null;
    refused = [];
    if (file) void run('check');
  }
</script>

<section class="import">
  <label
    class="drop"
    ondragover={(event) => event.preventDefault()}
    ondrop={(event) => {
      event.preventDefault();
      choose(event.dataTransfer?.files ?? null);
    }}
  >
    <span
      ><b class:chosen={file !== null}
        >{file ? file.name : 'Choose a CSV or XLSX file, or drop it here'}</b
      ><br /><span class="small soft"
        >At most 5 MB and 20,000 rows. Nothing is written before you say so.</span
      ></span
    >
    <input
      class="visually-hidden"
      type="file"
      accept=".csv,.xlsx,text/csv"
      onchange={(event) => choose(event.currentTarget.files)}
      aria-label="File of {what[1]}"
    />
  </label>
  <p class="small soft">
    Columns, in any order: {#each columns as column, index (column.says)}{column.says}{#if column.required}<b
          class="must">*</b
        >{/if}{index < columns.length - 1 ? ', ' : '.'}{/each}
  </p>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if busy}<p role="status">Reading {file?.name} …</p>{/if}
  {#if report}
    <p class="sum" role="status">
      {#if report.written}<b class="good">✓ Written:</b>{/if}
      {report.counts.new} new, {report.counts.changed} changed, {report.counts.same} as they are{#if report.counts.fault > 0},
        <b class="stop">{report.counts.fault} cannot be taken</b
        >{/if}.{#if report.passedOver.length > 0}
        <span class="soft">Passed over: {fewOf(report.passedOver, 8)}.</span>{/if}
    </p>
    {#if !report.written}
      <div class="acts">
        {#if report.counts.fault === 0}<button
            class="act main"
            disabled={good === 0 || busy}
            onclick={() => run('write')}>Write {count(good, what[0], what[1])}</button
          >
        {:else if good > 0}<button class="act" disabled={busy} onclick={() => run('write-good')}
            >Write the {good} good {good === 1 ? 'one' : 'ones'}, leave {report.counts.fault} out</button
          >{/if}
        {#if report.counts.fault > 0}<label class="inline"
            ><input type="checkbox" bind:checked={onlyFaults} /> only what cannot be taken</label
          >{/if}
      </div>
    {/if}
    <div class="rows">
      <WideTable of="rows of the file">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col" class="right">Row</th><th scope="col">{capital(what[0])}</th><th
                scope="col">Verdict</th
              ></tr
            ></thead
          >
          <tbody
            >{#each shown.slice(0, MOST) as row (row.row)}<tr class={row.verdict}
                ><td class="right number">{row.row}</td><td class="number">{row.what}</td><td
                  ><b>{SAYS[row.verdict]}</b>{#each row.messages as message, index (index)}<br
                    />{message}{/each}</td
                ></tr
              >{/each}</tbody
          >
        </table>
      </WideTable>
    </div>
    {#if shown.length > MOST}<p class="small soft">and {shown.length - MOST} rows more.</p>{/if}
  {/if}
</section>

<style>
  .import {
    display: grid;
    gap: 12px;
  }
  .drop {
    display: flex;
    justify-content: space-between;
    gap: 18px;
    align-items: center;
    flex-wrap: wrap;
    border: 2px dashed var(--line-strong);
    background: var(--paper);
    padding: 18px 20px;
    cursor: pointer;
  }
  .drop:focus-within {
    border-color: var(--brass);
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
  .drop:hover {
    border-color: var(--brass);
  }
  .chosen {
    font-family: var(--mono);
  }
  .must {
    color: var(--brass);
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
  }
  .acts {
    display: flex;
    gap: 16px;
    align-items: center;
  }
  .inline {
    display: inline-flex;
    gap: 6px;
    align-items: center;
  }
  .rows {
    max-height: 420px;
    overflow: auto;
    border: 1px solid var(--line);
  }
  tr.fault {
    background: var(--rust-pale);
  }
  tr.fault b {
    color: var(--rust);
  }
  tr.new b {
    color: var(--sea);
  }
  tr.same b {
    font-weight: 400;
    color: var(--ink-soft);
  }
</style>
