<!-- What a refusal says that belongs to no row: a lost connection, a missing right, a fault of the document or the partner. -->
<script lang="ts">
  import type { Refusal } from '../frame/api.ts';
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
</script>

{#if messages.length > 0}
  <div class="refused" role="alert">
    {#each messages.slice(0, 4) as message, index (index)}<p>
        <b aria-hidden="true">✕</b>
        {message}
      </p>{/each}
  </div>
{/if}

<style>
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
