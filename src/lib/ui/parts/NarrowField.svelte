<!-- A field that narrows a list: a moment after the last key the screen's address has the text. -->
<script lang="ts">
  import { narrowTo } from '$lib/ui/frame/refresh.ts';
  import { pagedAddress } from './paged-address.ts';

  interface Props {
    /** What the list is narrowed to now. */
    q: string;
    placeholder: string;
    /** What it does, for who does not see it. */
    label: string;
    /** The screen that has the list. */
    path: string;
  }
  let { q, placeholder, label, path }: Props = $props();
  const MOMENT_MS = 250;
  let text = $derived(q);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function narrow(): void {
    clearTimeout(timer);
    timer = setTimeout(() => narrowTo(pagedAddress(path, { q: text.trim() })), MOMENT_MS);
  }
</script>

<input
  class="field"
  {placeholder}
  aria-label={label}
  bind:value={text}
  oninput={narrow}
  spellcheck="false"
/>

<style>
  input {
    width: 280px;
  }
</style>
