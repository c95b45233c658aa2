<!-- A word of a sentence that can be chosen anew where it stands. -->
<script lang="ts" generics="T extends string">
  interface Props {
    value: T;
    options: readonly { value: T; says: string }[];
    label: string;
    disabled?: boolean;
    onchange: (value: T) => void;
  }
  let { value, options, label, disabled = false, onchange }: Props = $props();
  const says = $derived(options.find((option) => option.value === value)?.says ?? value);
</script>

<span class="word" class:disabled
  ><span aria-hidden="true">{says}</span><select
    {value}
    {disabled}
    aria-label={label}
    onchange={(event) => onchange(event.currentTarget.value as T)}
  >
    {#each options as option (option.value)}<option value={option.value}>{option.says}</option
      >{/each}
  </select></span
>

<style>
  /* The word keeps the width of what it says; the list opens over it. */
  .word {
    position: relative;
    display: inline-block;
    color: var(--brass);
    font-weight: 600;
    border-bottom: 2px solid var(--brass);
    line-height: 1.25;
  }
  .word.disabled {
    color: inherit;
    border-bottom-color: transparent;
  }
  select {
    position: absolute;
    inset: -4px 0;
    width: 100%;
    opacity: 0;
    cursor: pointer;
    font-size: 16px;
  }
  select:disabled {
    cursor: default;
  }
  .word:focus-within {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
  .word:hover:not(.disabled) {
    background: var(--brass-pale);
  }
</style>
