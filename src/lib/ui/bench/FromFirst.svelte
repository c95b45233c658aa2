<!-- Numbers made from a first one with step and count, or a line split over lots: the ways to fill a line that need a word or two. -->
<script lang="ts">
  import { continueNumbers } from '../../core/numbers/continue.ts';

  interface Props {
    /** `serial` makes a row for each number, `lot` splits the quantity over so many lots. */
    kind: 'serial' | 'lot';
    /** How many, or how much, is still to mark. */
    left: string;
    withLot: boolean;
    onmake: (numbers: string[], lot: string) => void;
    onclose: () => void;
  }
  let { kind, left, withLot, onmake, onclose }: Props = $props();
  let first = $state('');
  let step = $state(1);
  // svelte-ignore state_referenced_locally
  let many = $state(
    kind === 'serial' ? Math.min(20_000, Math.max(1, Math.round(Number(left)) || 1)) : 2
  );
  let lot = $state('');
  let field: HTMLInputElement;
  $effect(() => field.focus());

  const numbers = $derived(
    first.trim() === '' ? [] : [first.trim(), ...continueNumbers(first, many - 1, step)]
  );
  const wrong = $derived(
    first.trim() !== '' && many > 1 && numbers.length < many
      ? 'The first number holds no digits to count on, or would fall below zero.'
      : many < 1 || many > 20_000
        ? 'Between 1 and 20,000.'
        : ''
  );
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    if (!wrong && numbers.length > 0) onmake(numbers, lot.trim());
  }}
>
  <label class="stack"
    >{kind === 'serial' ? 'first number' : 'first lot'}<input
      class="field number"
      bind:this={field}
      bind:value={first}
      maxlength="60"
      autocomplete="off"
    /></label
  >
  <label class="stack narrow"
    >step<input class="field number" type="number" bind:value={step} /></label
  >
  <label class="stack narrow"
    >{kind === 'serial' ? 'how many' : 'over lots'}<input
      class="field number"
      type="number"
      min="1"
      max="20000"
      bind:value={many}
    /></label
  >
  {#if withLot}<label class="stack"
      >all into lot<input
        class="field number"
        bind:value={lot}
        maxlength="60"
        autocomplete="off"
        placeholder="as above"
      /></label
    >{/if}
  <button class="act main" disabled={wrong !== '' || numbers.length === 0}
    >{kind === 'serial'
      ? `Fill ${numbers.length || ''} rows`
      : `Split over ${numbers.length || ''} lots`}</button
  >
  <button type="button" class="act quiet" onclick={onclose}>Leave it</button>
  <p class="small" class:stop={wrong !== ''} role="status">
    {wrong || (numbers.length > 1 ? `${numbers[0]} … ${numbers.at(-1)}` : '')}
  </p>
</form>

<style>
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 12px;
    align-items: end;
    margin: 4px 18px 8px;
    padding: 10px 14px;
    background: var(--paper);
    border: 1px solid var(--line);
  }
  .narrow input {
    width: 92px;
  }
  p {
    flex-basis: 100%;
    min-height: 18px;
    color: var(--ink-soft);
  }
</style>
