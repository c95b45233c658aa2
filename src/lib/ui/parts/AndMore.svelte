<script lang="ts">
  /** Under a list that shows its first few: how many it does not, or nothing. */
  interface Props {
    shown: number;
    total: number;
  }
  let { shown, total }: Props = $props();
</script>

{#if total > shown}<p class="small soft" role="note">and {total - shown} more</p>{/if}
