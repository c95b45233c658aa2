<!-- Under a refusal that a plan softens: the reason or the second person it waits for, and sending it again. -->
<script lang="ts">
  import type { Fault } from './booking-sheet.svelte.ts';
  import type { GoingOn } from './going-on.svelte.ts';
  import ReasonPanel from './ReasonPanel.svelte';

  interface Props {
    /** Document of the booking. */
    document: string;
    faults: readonly Fault[];
    going: GoingOn;
    again: () => unknown;
    says?: string;
  }
  let { document, faults, going, again, says = 'Go on with this reason' }: Props = $props();
  const wantsReason = $derived(faults.some((fault) => fault.answer === 'reason'));
  let panel = $state<ReturnType<typeof ReasonPanel>>();
  // It is shown when something was refused: what is asked then is written next.
  $effect(() => {
    if (wantsReason) panel?.focus();
  });
  const written = $derived(Object.values(going.reasons).some((one) => one.trim()));
</script>

{#if faults.some((fault) => fault.answer)}
  <div class="go">
    <ReasonPanel
      bind:this={panel}
      {document}
      {faults}
      reasons={going.reasons}
      approvals={going.approvals}
      onchange={(given) => (going.reasons = given)}
      onapproved={(given) => {
        going.approvals = [...going.approvals, given];
        if (!wantsReason) void again();
      }}
    />
    {#if wantsReason}<button type="button" class="act" disabled={!written} onclick={() => again()}
        >{says}</button
      >{/if}
  </div>
{/if}

<style>
  .go {
    display: grid;
    gap: 8px;
  }
  .go :global(.reasons) {
    margin: 0;
  }
  .act {
    justify-self: start;
  }
</style>
