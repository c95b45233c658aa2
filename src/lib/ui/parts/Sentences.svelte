<!-- What there is to say of something, a sentence a line. -->
<script lang="ts">
  let { says }: { says: readonly string[] } = $props();
</script>

<ul>
  {#each says as sentence (sentence)}<li>{sentence}</li>{/each}
</ul>

<style>
  ul {
    display: grid;
    gap: 4px;
    max-width: 70ch;
  }
</style>
