<script lang="ts">
  import { count, sayInstant } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const job = $derived(data.job);
</script>

<svelte:head><title>Label job {job.id} · Earmark</title></svelte:head>
<div class="screen">
  <div class="top">
    <h1>
      {job.target === 'pdf' ? 'PDF' : 'Label printer'}, job <span class="number">{job.id}</span>
    </h1>
    <span class="soft"
      >{count(job.count, 'label')}{job.copies > 1 ? `, ${job.copies} copies each` : ''} · {sayInstant(
        job.printedAt
      )} · {job.who}</span
    ><a class="act" href="/api/v1/labels/{job.id}" target="_blank" rel="noopener">PDF</a><a
      href="/labels">All jobs</a
    >
  </div>
  <ol>
    {#each data.drawn as label (label.id)}
      <!-- Drawn by the server from what was kept of the job, with every text escaped. -->
      <li style:width="{Math.min(420, Number(job.size.split('x')[0]) * 4)}px">
        <div class="paper">
          <!-- eslint-disable-next-line svelte/no-at-html-tags -->
          {@html label.svg}
        </div>
        <p class="small">
          <a class="number" href="/marks/{label.id}">{label.number}</a>{#if label.before > 0}
            <b class="reprint">reprint, printed {label.before}× before</b>{/if}
        </p>
      </li>
    {/each}
  </ol>
  {#if job.count > data.drawn.length}<p class="soft">
      and {job.count - data.drawn.length} more, all in the PDF.
    </p>{/if}
</div>

<style>
  .screen {
    padding: 20px 24px 32px;
    display: grid;
    gap: 20px;
    align-content: start;
  }
  .top {
    display: flex;
    gap: 16px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 18px;
    background: #e6dfd1;
    padding: 22px;
  }
  .paper {
    background: #fff;
    box-shadow: 0 2px 8px rgb(29 41 48 / 22%);
  }
  .paper :global(svg) {
    display: block;
    width: 100%;
    height: auto;
  }
  .reprint {
    background: var(--amber);
    padding: 1px 6px;
  }
</style>
