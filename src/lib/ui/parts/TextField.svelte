<!-- A field with its label above, its unit beside it and what is to say of it below. -->
<script lang="ts">
  interface Props {
    label: string;
    value: string;
    /** Unit of measure of what is typed. */
    unit?: string;
    /** What is said while nothing is wrong. */
    hint?: string;
    error?: string;
    most?: number;
    /** Which keys a phone shows. */
    keys?: 'text' | 'numeric' | 'decimal';
    /** Codes and numbers stand in the type of numbers. */
    number?: boolean;
    /** Lines it has; one where left out. */
    lines?: number;
    disabled?: boolean;
  }
  let {
    label,
    value = $bindable(),
    unit = '',
    hint = '',
    error = '',
    most = 200,
    keys = 'text',
    number = false,
    lines = 1,
    disabled = false
  }: Props = $props();
  const id = $props.id();
  const told = $derived({
    'aria-invalid': error !== '',
    'aria-describedby': error || hint ? `${id}-says` : undefined
  });
</script>

<div class="labelled">
  <label for={id}>{label}</label>
  <span class="box">
    {#if lines > 1}<textarea {id} class="field" rows={lines} maxlength={most} bind:value {...told}
      ></textarea>
    {:else}<input
        {id}
        class="field"
        class:number={number || keys !== 'text'}
        maxlength={most}
        inputmode={keys}
        autocomplete="off"
        {disabled}
        bind:value
        {...told}
      />{/if}{#if unit}<span class="soft small">{unit}</span>{/if}
  </span>
  {#if error || hint}<span class="says" class:stop={error} id="{id}-says">{error || hint}</span
    >{/if}
</div>

<style>
  .box {
    display: flex;
    gap: 6px;
    align-items: center;
  }
  .field {
    flex: 1;
    min-width: 0;
    width: 100%;
  }
</style>
