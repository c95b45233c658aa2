<!-- What became of the last scan, in a colour that is seen from afar, and the field for the next. -->
<script lang="ts">
  import { onMount, tick } from 'svelte';
  import type { Told } from './in-hand.ts';

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

<p
  class="said {told.tone}"
  role={told.tone === 'refused' ? 'alert' : 'status'}
  aria-live="assertive"
>
  {told.text}
</p>
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
  .said {
    min-height: 58px;
    padding: 12px 16px;
    font-size: 21px;
    font-weight: 600;
    line-height: 1.3;
    display: flex;
    align-items: center;
    background: var(--slate-pale);
  }
  .said.taken {
    background: var(--sea);
    color: #fff;
  }
  .said.refused {
    background: var(--rust);
    color: #fff;
  }
  .said.warned {
    background: var(--amber);
  }
  .said.ask {
    font-weight: 400;
    color: var(--ink-soft);
  }
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
  @media (max-width: 700px) {
    .said {
      font-size: 18px;
    }
  }
</style>
