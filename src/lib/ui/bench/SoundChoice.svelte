<!-- Whether a bench is heard; it sounds once as it is switched on. -->
<script lang="ts">
  import { sound } from './sound.ts';

  let { loud = $bindable(), onchosen }: { loud: boolean; onchosen: () => void } = $props();
</script>

<label
  ><input
    type="checkbox"
    bind:checked={loud}
    onchange={() => {
      if (loud) sound('taken');
      onchosen();
    }}
  /> sound</label
>

<style>
  label {
    margin-left: auto;
    display: inline-flex;
    gap: 8px;
    align-items: center;
    font-size: 16px;
    min-height: 44px;
  }
  input {
    width: 20px;
    height: 20px;
  }
</style>
