<!-- The numbers scanned beside the one in hand, the latest first, each with its way off the sheet. -->
<script lang="ts">
  import type { RowVerdict } from './grid.ts';

  interface Props {
    numbers: readonly { at: number; number: string }[];
    verdicts: ReadonlyMap<number, RowVerdict & { full: string }>;
    onoff: (at: number) => void;
  }
  let { numbers, verdicts, onoff }: Props = $props();
  const why = (at: number): string => {
    const verdict = verdicts.get(at);
    return verdict?.tone === 'stop' ? verdict.full : '';
  };
</script>

<ol aria-label="Also scanned">
  {#each numbers as { at, number } (at)}
    <li class:wrong={why(at) !== ''}>
      <span class="sign" aria-hidden="true">{why(at) === '' ? '✓' : '×'}</span><b class="number"
        >{number}</b
      ><span class="small">{why(at)}</span><button
        class="act quiet"
        aria-label="Take {number} off the sheet"
        onclick={() => onoff(at)}>Take off</button
      >
    </li>
  {/each}
</ol>

<style>
  ol {
    display: grid;
    gap: 4px;
  }
  li {
    display: grid;
    grid-template-columns: 24px auto minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    padding: 2px 12px;
    background: var(--sea-pale);
    font-size: 18px;
    min-height: 46px;
  }
  .wrong {
    background: var(--rust-pale);
  }
  .sign {
    color: var(--sea);
    font-size: 20px;
  }
  .wrong .sign {
    color: var(--rust);
  }
</style>
