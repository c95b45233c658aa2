<!-- One field for what is scanned, typed or pasted: a number, a range, or a column of them. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    label: string;
    onscan: (text: string) => void;
    /** What stands beside it in the same row. */
    children?: Snippet;
  }
  let { label, onscan, children }: Props = $props();
  let text = $state('');

  function paste(event: ClipboardEvent): void {
    const pasted = event.clipboardData?.getData('text/plain') ?? '';
    // One value goes in as it is, to be looked at first.
    if (!/[\r\n\t]/.test(pasted.trim())) return;
    event.preventDefault();
    onscan(pasted);
  }
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    const scanned = text;
    text = '';
    if (scanned.trim()) onscan(scanned);
  }}
>
  <label class="stack scan"
    >{label}<input
      class="field number"
      bind:value={text}
      autocomplete="off"
      spellcheck="false"
      onpaste={paste}
    /></label
  >
  <button class="act">Take it</button>
  {@render children?.()}
</form>

<style>
  form {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  .scan {
    flex: 1;
    min-width: 220px;
    max-width: 460px;
  }
  input {
    width: 100%;
    min-height: 44px;
  }
</style>
