<!-- A blank in a sentence that is filled in where it stands. -->
<script lang="ts">
  interface Props {
    value: string;
    label: string;
    width?: string;
    placeholder?: string;
    disabled?: boolean;
    numeric?: boolean;
    onchange: (value: string) => void;
  }
  let {
    value,
    label,
    width = '4ch',
    placeholder = '…',
    disabled = false,
    numeric = false,
    onchange
  }: Props = $props();
</script>

<input
  {value}
  {placeholder}
  {disabled}
  aria-label={label}
  style:width
  inputmode={numeric ? 'decimal' : undefined}
  autocomplete="off"
  oninput={(event) => onchange(event.currentTarget.value)}
/>

<style>
  input {
    border: 0;
    border-bottom: 2px solid var(--brass);
    background: transparent;
    color: var(--brass);
    font: 600 1em var(--sans);
    padding: 0 3px;
    height: 1.6em;
    min-width: 44px;
    text-align: center;
  }
  input:focus {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
    background: var(--panel);
  }
  input:disabled {
    border-bottom-color: transparent;
    color: inherit;
  }
  input::placeholder {
    color: #8a6a3a;
    opacity: 1;
  }
</style>
