<!-- Messages of one matter: the first few in sight, the others a press away. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import AndMore from './AndMore.svelte';

  interface Props {
    messages: readonly string[];
    /** How many are in sight. */
    shown: number;
    say: Snippet<[string]>;
  }
  let { messages, shown, say }: Props = $props();
  /** What a person reads; who has more wrong than that mends these first. */
  const MOST = 200;
  const others = $derived(messages.slice(shown, MOST));
</script>

{#each messages.slice(0, shown) as message, index (index)}{@render say(message)}{/each}
{#if others.length > 0}<details>
    <summary>and {messages.length - shown} more</summary>
    <div>
      {#each others as message, index (index)}{@render say(message)}{/each}
      <AndMore shown={MOST} total={messages.length} />
    </div>
  </details>{/if}

<style>
  summary {
    width: max-content;
    padding: 4px 0;
    cursor: pointer;
    text-decoration: underline;
  }
  div {
    display: grid;
    gap: 4px;
    max-height: 40vh;
    overflow-y: auto;
  }
</style>
