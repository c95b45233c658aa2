<script lang="ts">
  import { untrack } from 'svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { LABEL_SIZES, type LabelSize, type LabelSymbol } from '$lib/core/labels/label.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { count, sayInstant } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const SYMBOLS: [LabelSymbol, string][] = [
    ['datamatrix', 'GS1 DataMatrix'],
    ['gs1-128', 'GS1-128'],
    ['qr', 'QR with Digital Link']
  ];
  const SIZES = Object.keys(LABEL_SIZES) as LabelSize[];
  let symbol = $state<LabelSymbol>('datamatrix');
  let size = $state<LabelSize>('50x25');
  let copies = $state(1);
  let chosen = $state.raw(new Set(untrack(() => data.ids)));
  let refused = $state('');
  interface Job {
    job: number;
    labels: number;
    reprints: number;
    plain: { number: string; why: string }[];
  }
  /** What is printed so far: a job for each part. */
  let jobs = $state.raw<Job[]>([]);
  let target = $state<'pdf' | 'printer'>('printer');
  let printing = $state(false);
  const preview = $derived(data.previews[`${symbol} ${size}`] ?? '');
  const marks = $derived(data.ids.filter((id) => chosen.has(id)));
  const parts = $derived(Math.ceil(marks.length / data.part));

  /** Prints what is chosen, part by part; one that is refused stops there, and says what is printed. */
  async function print(where: 'pdf' | 'printer'): Promise<void> {
    refused = '';
    jobs = [];
    target = where;
    printing = true;
    const all = marks;
    for (let from = 0; from < all.length; from += data.part) {
      const reply = await send<Job>('POST', '/api/v1/labels', {
        ...{ marks: all.slice(from, from + data.part), symbol, size, copies },
        target: where
      });
      if (!reply.ok) {
        refused = messagesOf(reply.refusal)[0]!;
        // What is printed is not printed again with the rest.
        if (from > 0) chosen = new Set(all.slice(from));
        break;
      }
      jobs = [...jobs, reply.body];
    }
    printing = false;
    await refresh();
    const [only] = jobs;
    if (where === 'pdf' && only && jobs.length === 1)
      window.open(`/api/v1/labels/${only.job}`, '_blank', 'noopener');
  }
  const toggle = (id: number): void => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    chosen = next;
  };

  const sum = (of: (job: Job) => number): number => jobs.reduce((all, job) => all + of(job), 0);
  const plain = $derived(jobs.flatMap((job) => job.plain));
  const said = $derived.by(() => {
    const where = target === 'pdf' ? 'as PDF' : 'sent to the label printer';
    const reprints = sum((job) => job.reprints);
    const again = reprints > 0 ? `, ${reprints} of them again` : '';
    return `${count(
      sum((job) => job.labels),
      'label'
    )} ${where}${again}.`;
  });
</script>

<svelte:head><title>Labels · Earmark</title></svelte:head>
<div class="screen">
  {#if data.labels.length > 0}
    <section class="print">
      <div class="choose">
        <h1>Print {count(chosen.size, 'label')}</h1>
        {#if data.printed > 0}<p class="mind">
            {data.printed === data.ids.length
              ? 'All of these were'
              : `${data.printed} of these ${data.printed === 1 ? 'was' : 'were'}`} printed before; printing
            again is recorded as a reprint.
          </p>{/if}
        {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
        {#if printing && parts > 1}<p class="kept" role="status">
            Part {jobs.length + 1} of {parts} is printing …
          </p>{:else if jobs.length > 0}<p class="kept" role="status">
            ✓ {said}
            {#each jobs as job (job.job)}<a
                href={target === 'pdf' && jobs.length > 1
                  ? `/api/v1/labels/${job.job}`
                  : `/labels/${job.job}`}
                >{target === 'pdf' && jobs.length > 1 ? 'PDF of' : 'Look at'} job {job.job}</a
              >
            {/each}{#if plain.length > 0}<br /><span class="plain-said"
                >With the bare number instead of a GS1 symbol: {plain[0]!.why}{plain.length > 1
                  ? `, and ${plain.length - 1} more`
                  : ''}.</span
              >{/if}
          </p>{/if}
        {#if parts > 1 && !printing}<p class="small soft">
            They are printed in {parts} parts of {data.part} at the most, one after the other.
          </p>{/if}
        <div class="row">
          <label class="stack"
            >symbol<select class="field" bind:value={symbol}
              >{#each SYMBOLS as [value, says] (value)}<option {value}>{says}</option
                >{/each}</select
            ></label
          >
          <label class="stack"
            >size, mm<select class="field" bind:value={size}
              >{#each SIZES as one (one)}<option value={one}>{one.replace('x', ' × ')}</option
                >{/each}</select
            ></label
          >
          <label class="stack"
            >copies<input
              class="field number"
              type="number"
              min="1"
              max="100"
              bind:value={copies}
            /></label
          >
        </div>
        {#if data.mayPrint}<div class="row">
            <button
              class="act main"
              disabled={chosen.size === 0 || printing}
              onclick={() => print('printer')}>Print {chosen.size}</button
            ><button
              class="act"
              disabled={chosen.size === 0 || printing}
              onclick={() => print('pdf')}>PDF of {chosen.size}</button
            >
          </div>{:else}<p class="soft">Your role looks at labels; it does not print them.</p>{/if}
        <ul class="which">
          {#each data.labels as label (label.id)}<li>
              <label
                ><input
                  type="checkbox"
                  checked={chosen.has(label.id)}
                  onchange={() => toggle(label.id)}
                /> <span class="number">{label.number}</span>
                <span class="small soft"
                  >{label.product}{label.before > 0 ? ` · printed ${label.before}×` : ''}</span
                ></label
              >
            </li>{/each}
        </ul>
        {#if data.ids.length > data.labels.length}<p class="small soft">
            and {data.ids.length - data.labels.length} more, all of them printed.
          </p>{/if}
      </div>
      <!-- The picture is drawn by the server from the mark's own data, with every text escaped. -->
      <figure>
        <div class="paper" style:max-width="{LABEL_SIZES[size][0] * 4.2}px">
          <!-- eslint-disable-next-line svelte/no-at-html-tags -->
          {@html preview}
        </div>
        <figcaption class="small soft">{data.labels[0]!.number}, as it will be printed</figcaption>
      </figure>
    </section>
  {/if}
  <section>
    <h2>Printed lately</h2>
    <WideTable of="labels printed lately">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Job</th><th scope="col">When</th><th scope="col">Who</th><th
              scope="col">To</th
            ><th scope="col">Symbol and size</th><th scope="col">Labels</th></tr
          ></thead
        >
        <tbody data-list
          >{#each data.jobs as job (job.id)}<tr
              ><td><a class="number" href="/labels/{job.id}"><b>{job.id}</b></a></td><td
                >{sayInstant(job.printedAt)}</td
              ><td>{job.who}</td><td>{job.target === 'pdf' ? 'PDF' : 'label printer'}</td><td
                >{SYMBOLS.find(([value]) => value === job.symbol)![1]}, {job.size.replace(
                  'x',
                  ' × '
                )} mm</td
              ><td
                >{job.count}{job.copies > 1 ? ` × ${job.copies}` : ''}
                <span class="number small soft"
                  >{job.first.join(', ')}{job.count > 3 ? ' …' : ''}</span
                >{#if job.reprints > 0}
                  <b class="reprint small"
                    >{job.reprints === job.count ? 'reprint' : `${job.reprints} again`}</b
                  >{/if}</td
              ></tr
            >
          {:else}<tr
              ><td colspan="6" class="soft"
                >Nothing was printed yet. Labels are printed from a receipt, a build or the page of
                a mark.</td
              ></tr
            >{/each}</tbody
        >
      </table>
    </WideTable>
  </section>
</div>

<style>
  .reprint {
    background: var(--amber);
    padding: 1px 6px;
  }
  .screen {
    padding: 20px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 26px;
    align-content: start;
  }
  h2 {
    margin-bottom: 8px;
  }
  .print {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(260px, 440px);
    gap: 30px;
    align-items: start;
  }
  .choose {
    display: grid;
    gap: 14px;
  }
  .row {
    display: flex;
    gap: 14px;
    flex-wrap: wrap;
    align-items: end;
  }
  .row input {
    width: 86px;
  }
  figure {
    background: #e6dfd1;
    padding: 26px;
    display: grid;
    gap: 10px;
    justify-items: center;
  }
  .paper {
    width: 100%;
    box-shadow: 0 2px 8px rgb(29 41 48 / 22%);
    background: #fff;
  }
  .paper :global(svg) {
    display: block;
    width: 100%;
    height: auto;
  }
  .which {
    columns: 3 190px;
    max-height: 200px;
    overflow: auto;
    border-top: 1px solid var(--line);
    padding-top: 8px;
  }
  .which li {
    break-inside: avoid;
  }
  .which label {
    display: flex;
    gap: 6px;
    align-items: baseline;
    padding: 3px 0;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
  }
  .plain-said {
    color: var(--ink);
    font-weight: 400;
  }
  @media (max-width: 900px) {
    .print {
      grid-template-columns: 1fr;
    }
  }
</style>
