<script lang="ts">
  import { page } from '$app/state';
</script>

<svelte:head><title>Not found · Earmark</title></svelte:head>
<div>
  <h1>{page.status === 404 ? 'Nothing here' : 'Something went wrong'}</h1>
  <p>{page.error?.message}</p>
  <p><a href="/">Back to Today</a>, or scan any number above.</p>
</div>

<style>
  div {
    padding: 40px 32px;
    display: grid;
    gap: 12px;
  }
</style>
