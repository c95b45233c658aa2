<!-- A field for a password, with what is wrong with it below. -->
<script lang="ts">
  let {
    label,
    isNew = false,
    fault = '',
    value = $bindable('')
  }: { label: string; isNew?: boolean; fault?: string; value?: string } = $props();
  const id = $props.id();
</script>

<label class="stack"
  >{label}<input
    class="field"
    type="password"
    bind:value
    autocomplete={isNew ? 'new-password' : 'current-password'}
    maxlength="1000"
    required
    aria-invalid={fault !== ''}
    aria-describedby={fault ? `${id}-fault` : undefined}
  />{#if fault}<span class="stop fault" id="{id}-fault" role="alert">{fault}</span>{/if}</label
>

<style>
  .stack {
    width: 200px;
  }
</style>
