<!-- The ways a sheet is filled, one of them chosen; each has its key. -->
<script lang="ts">
  interface Props {
    /** What is chosen, and what it is called, in the order of their keys. */
    ways: readonly (readonly [string, string])[];
    chosen: string;
    onchoose: (way: string) => void;
  }
  let { ways, chosen, onchoose }: Props = $props();
</script>

<div class="ways" role="radiogroup" aria-label="How to record">
  {#each ways as [key, says], index (key)}<button
      role="radio"
      aria-checked={chosen === key}
      class:on={chosen === key}
      onclick={() => onchoose(key)}
      ><span>{says}</span><kbd aria-hidden="true">{index + 1}</kbd></button
    >{/each}
</div>

<style>
  .ways {
    display: inline-flex;
    border: 1px solid var(--line-strong);
  }
  button {
    font-size: 14px;
    border: 0;
    background: var(--panel);
    padding: 0 10px;
    min-height: 38px;
    cursor: pointer;
    font-weight: 600;
    color: var(--ink-soft);
  }
  button + button {
    border-left: 1px solid var(--line-strong);
  }
  .on {
    background: var(--ink);
    color: #fff;
  }
  .on kbd {
    color: #f3dfb6;
    border-color: #8a979f;
  }
  kbd {
    margin-left: 6px;
    border-color: var(--line);
  }
  @media (max-width: 1400px) {
    kbd {
      display: none;
    }
  }
  @media (max-width: 700px) {
    button {
      min-height: 44px;
    }
  }
</style>
