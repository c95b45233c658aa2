<!-- What a refusal says that belongs to no row: a lost connection, a missing right, a fault of the document or the partner. -->
<script lang="ts">
  import type { Refusal } from '../frame/api.ts';
  import { taskOf } from '../frame/fault-task.ts';
  import { anchorOf } from '../frame/help.ts';
  import Messages from '../parts/Messages.svelte';
  import type { Fault } from './booking-sheet.svelte.ts';
  let { refusal, faults }: { refusal: Refusal | null; faults: readonly Fault[] } = $props();
  const messages = $derived([
    ...(refusal && refusal.status !== 422
      ? refusal.errors.length
        ? refusal.errors.map((error) => `${refusal.title}. ${error.message}`)
        : [refusal.title]
      : []),
    ...faults.map((fault) => fault.message)
  ]);
  const SHOWN = 4;
  /** How what is wrong is mended, task by task; in a tab of its own, so that the sheet stays. */
  const tasks = $derived([
    ...new Set([...(refusal?.errors ?? []), ...faults].flatMap(({ code }) => taskOf(code) ?? []))
  ]);
</script>

{#if messages.length > 0}
  <div class="refused" role="alert">
    <Messages {messages} shown={SHOWN}>
      {#snippet say(message)}<p><b aria-hidden="true">✕</b> {message}</p>{/snippet}
    </Messages>
    {#if tasks.length > 0}<p class="how">
        How it is done: {#each tasks.slice(0, 2) as task, index (task)}{index > 0 ? ', ' : ''}<a
            href="/help#{anchorOf(task)}"
            target="_blank"
            rel="noopener">{task}</a
          >{/each}
      </p>{/if}
  </div>
{/if}

<style>
  .how {
    font-weight: 400;
  }
  .refused {
    margin: 8px 18px 0;
    padding: 10px 14px;
    background: var(--rust-pale);
    border-left: 3px solid var(--rust);
    color: var(--rust);
    font-size: 14px;
    font-weight: 600;
    display: grid;
    gap: 4px;
  }
</style>
