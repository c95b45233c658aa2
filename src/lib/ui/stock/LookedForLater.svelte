<!-- Numbers that were scanned without a line and are not known on this device. -->
<script lang="ts">
  import AndMore from '../parts/AndMore.svelte';
  import { count } from '../parts/say.ts';

  interface Props {
    numbers: readonly string[];
    ondrop: (number: string) => void;
  }
  let { numbers, ondrop }: Props = $props();
  const MOST = 50;
</script>

{#if numbers.length > 0}
  <section class="mind later" aria-label="Looked for when the line is back">
    <p>
      <b>{count(numbers.length, 'number')} not known on this device.</b> Earmark looks for {numbers.length ===
      1
        ? 'it'
        : 'them'} when the line is back; scan the place then.
    </p>
    <ul>
      {#each numbers.slice(0, MOST) as number (number)}<li>
          <span class="number">{number}</span><button
            class="act quiet"
            onclick={() => ondrop(number)}
            aria-label="Leave {number} out">Leave out</button
          >
        </li>{/each}
    </ul>
    <AndMore shown={MOST} total={numbers.length} />
  </section>
{/if}

<style>
  .later {
    margin: 0 22px 8px;
  }
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 16px;
  }
  li {
    display: inline-flex;
    gap: 4px;
    align-items: center;
  }
</style>
