<!-- What can be done at a bench beside scanning: take the last scan back, acts of its own, and whether it is heard. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { sound } from './sound.ts';

  interface Props {
    mayUndo: boolean;
    onundo: () => void;
    loud: boolean;
    /** Sound was switched on or off. */
    onchosen: () => void;
    children: Snippet;
  }
  let { mayUndo, onundo, loud = $bindable(), onchosen, children }: Props = $props();
</script>

<div>
  <button class="act" onclick={onundo} disabled={!mayUndo}>Undo the last scan</button>
  {@render children()}
  <label
    ><input
      type="checkbox"
      bind:checked={loud}
      onchange={() => {
        if (loud) sound('taken');
        onchosen();
      }}
    /> sound</label
  >
</div>

<style>
  div {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
  }
  div :global(.act) {
    min-height: 48px;
    font-size: 16px;
  }
  label {
    margin-left: auto;
    display: inline-flex;
    gap: 8px;
    align-items: center;
    font-size: 16px;
    min-height: 44px;
  }
  input {
    width: 20px;
    height: 20px;
  }
</style>
