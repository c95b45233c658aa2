<!-- What was left on this device and did not hold when the line was back: to be done again, or given up. -->
<script lang="ts">
  import Messages from '../parts/Messages.svelte';
  import { sayTime } from '../parts/say.ts';
  import type { WaitingBooking } from './store.ts';
  import { waiting } from './waiting.svelte.ts';

  interface Props {
    refused: readonly WaitingBooking[];
    /** How it is done again, where more is to do than to do it anew. */
    again?: { says: string; act: (one: WaitingBooking) => void };
  }
  let { refused, again }: Props = $props();
  const SHOWN = 5;
</script>

{#each refused as one (one.key)}
  <section class="mind left" aria-label="Not booked">
    <p><b>Left here at {sayTime(one.at)} and not booked:</b></p>
    <Messages messages={one.refused ?? []} shown={SHOWN}>
      {#snippet say(message)}<p class="why">{message}</p>{/snippet}
    </Messages>
    <p class="acts">
      {#if again}<button
          class="act"
          onclick={() => {
            again.act(one);
            void waiting.takeBack(one.key);
          }}>{again.says}</button
        >{/if}
      <button class="act quiet" onclick={() => void waiting.takeBack(one.key)}
        >{again ? 'Give it up' : 'Seen'}</button
      >
    </p>
  </section>
{/each}

<style>
  .left {
    margin: var(--left-margin, 0);
  }
  .why {
    color: var(--rust);
  }
  .acts {
    display: flex;
    gap: 10px;
    margin-top: 6px;
  }
</style>
