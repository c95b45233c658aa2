<!-- What goes on a transfer or came with one, each with how much of it. -->
<script lang="ts">
  import { sayQuantity } from '../parts/say.ts';
  import { partKey, type Part } from './moving.ts';
  import PartAmount from './PartAmount.svelte';
  import PartTag from './PartTag.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    parts: readonly Part[];
    /** What is said of a part, by its place in the list. */
    said: ReadonlyMap<number, string>;
    /** The carton a thing that arrives is in, in words, by its mark. */
    inCarton?: ReadonlyMap<number, string>;
    mayBook: boolean;
    verb: string;
    onset: (at: number, change: Partial<Part>) => void;
  }
  let { parts, said, inCarton, mayBook, verb, onset }: Props = $props();
  const STEP = 200;
  let most = $state(STEP);
</script>

<WideTable of="what is sent">
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col"><span class="visually-hidden">{verb}</span></th><th scope="col">What</th
        ><th scope="col">{inCarton ? 'Under way' : 'Lies at'}</th><th scope="col" class="right"
          >How much</th
        ></tr
      ></thead
    >
    <tbody>
      {#each parts.slice(0, most) as part, at (partKey(part.row))}
        {@const name = part.row.number ?? part.row.product}
        <tr class:stopped={said.has(at)}>
          <td class="tick"
            ><input
              type="checkbox"
              checked={part.going}
              disabled={!mayBook}
              aria-label="{verb} {name}"
              onchange={(event) => onset(at, { going: event.currentTarget.checked })}
            /></td
          >
          <td><PartTag row={part.row} /></td>
          <td
            >{inCarton?.get(part.row.mark) ?? part.row.fromName}{#if said.has(at)}<br /><span
                class="stop small">{said.get(at)}</span
              >{/if}</td
          >
          <td class="right"
            ><PartAmount {part} {mayBook} onset={(change) => onset(at, change)} />
            <span class="small soft">of {sayQuantity(part.row.quantity)} {part.row.unit}</span></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</WideTable>
{#if parts.length > most}<p>
    <button class="act" onclick={() => (most += STEP)}
      >Show {Math.min(STEP, parts.length - most)} more</button
    >
    <span class="soft small">{most} of {parts.length} rows are shown; all ticked are booked.</span>
  </p>{/if}

<style>
  .tick {
    width: 40px;
  }
  .tick input {
    width: 24px;
    height: 24px;
    accent-color: var(--brass);
  }
  tr.stopped {
    background: var(--rust-pale);
  }
</style>
