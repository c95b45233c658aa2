<!-- Something that is so or not. -->
<script lang="ts">
  let { label, value = $bindable() }: { label: string; value: boolean } = $props();
</script>

<label><input type="checkbox" bind:checked={value} /> {label}</label>

<style>
  label {
    display: flex;
    gap: 10px;
    align-items: center;
    min-height: 40px;
    cursor: pointer;
  }
  input {
    width: 20px;
    height: 20px;
    accent-color: var(--brass);
  }
</style>
