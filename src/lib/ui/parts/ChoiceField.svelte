<!-- One of a few, with its label above and what is to say of it below. -->
<script lang="ts" generics="Value extends string">
  interface Props {
    label: string;
    value: Value;
    choices: readonly (readonly [value: Value, says: string])[];
    hint?: string;
    error?: string;
    disabled?: boolean;
    onchange?: () => void;
  }
  let {
    label,
    value = $bindable(),
    choices,
    hint = '',
    error = '',
    disabled = false,
    onchange
  }: Props = $props();
  const id = $props.id();
</script>

<div class="labelled">
  <label for={id}>{label}</label>
  <select
    {id}
    class="field"
    {disabled}
    bind:value
    onchange={() => onchange?.()}
    aria-invalid={error !== ''}
    aria-describedby={error || hint ? `${id}-says` : undefined}
  >
    {#each choices as [choice, says] (choice)}<option value={choice}>{says}</option>{/each}
  </select>
  {#if error || hint}<span class="says" class:stop={error} id="{id}-says">{error || hint}</span
    >{/if}
</div>
