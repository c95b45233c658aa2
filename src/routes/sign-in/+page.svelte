<script lang="ts">
  import TagCard from '$lib/ui/frame/TagCard.svelte';

  let { form } = $props();
</script>

<svelte:head><title>Sign in · Earmark</title></svelte:head>
<TagCard>
  <form method="POST">
    <h1>Earmark</h1>
    <p>Where did this come from, and where did it all go?</p>
    {#if form?.message}<p class="refused" role="alert">{form.message}</p>{/if}
    <label class="stack"
      >Name<!-- svelte-ignore a11y_autofocus --><input
        class="field"
        name="login"
        value={form?.login ?? ''}
        autocomplete="username"
        required
        autofocus
        maxlength="200"
        spellcheck="false"
      /></label
    >
    <label class="stack"
      >Password<input
        class="field"
        name="password"
        type="password"
        autocomplete="current-password"
        required
        maxlength="1000"
      /></label
    >
    <button class="act main">Sign in</button>
  </form>
</TagCard>
