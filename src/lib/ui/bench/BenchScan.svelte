<!-- What became of the last scan, in a colour that is seen from afar, and the field for the next. -->
<script lang="ts">
  import { onMount, tick } from 'svelte';
  import type { Told } from './in-hand.ts';
  import ToldScan from './ToldScan.svelte';

  interface Props {
    told: Told;
    label: string;
    mayUndo: boolean;
    ontake: (text: string) => void;
    onundo: () => void;
  }
  let { told, label, mayUndo, ontake, onundo }: Props = $props();
  let text = $state('');
  let field: HTMLInputElement;

  export const focus = (): void => field.focus();
  onMount(() => {
    void tick().then(focus);
  });

  function press(event: KeyboardEvent): void {
    if (event.key === 'Backspace' && text === '' && mayUndo) {
      event.preventDefault();
      onundo();
    } else if (event.ctrlKey && event.key === ']') {
      // A scanner sends the separator of a symbol so.
      event.preventDefault();
      text += '\u001d';
    }
  }
</script>

<ToldScan {told} atOnce />
<form
  onsubmit={(event) => {
    event.preventDefault();
    ontake(text);
    text = '';
  }}
>
  <input
    class="number"
    bind:this={field}
    bind:value={text}
    aria-label={label}
    placeholder="scan here"
    autocomplete="off"
    spellcheck="false"
    enterkeyhint="done"
    onkeydown={press}
  />
</form>

<style>
  input {
    width: 100%;
    height: 56px;
    border: 2px solid var(--line-strong);
    padding: 0 16px;
    font-size: 22px;
    background: var(--panel);
    color: var(--ink);
  }
  input:focus {
    border-color: var(--brass);
    outline: 2px solid var(--brass);
  }
</style>
