<script lang="ts">
  import TagCard from '$lib/ui/frame/TagCard.svelte';

  let { data, form } = $props();
</script>

{#snippet withPassword()}
  <label class="stack"
    >Name<!-- svelte-ignore a11y_autofocus --><input
      class="field"
      name="login"
      value={form?.login ?? ''}
      autocomplete="username"
      required
      autofocus={!data.elsewhere}
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
  <button class="act" class:main={!data.elsewhere}>Sign in</button>
{/snippet}

<svelte:head><title>Sign in · Earmark</title></svelte:head>
<TagCard>
  <form method="POST">
    <h1>Earmark</h1>
    <p>Where did this come from, and where did it all go?</p>
    {#if form?.message || data.said}<p class="refused" role="alert">
        {form?.message ?? data.said}
      </p>{/if}
    {#if data.elsewhere}
      <a class="act main" href="/sign-in/elsewhere?to={encodeURIComponent(data.to)}"
        >Sign in with {data.elsewhere}</a
      >
      <details open={form !== null}>
        <summary
          >{data.isPasswordForOne
            ? 'With the one password that is left'
            : 'With a password'}</summary
        >
        <div>{@render withPassword()}</div>
      </details>
    {:else}{@render withPassword()}{/if}
  </form>
</TagCard>

<style>
  a {
    text-align: center;
  }
  summary {
    cursor: pointer;
    min-height: 32px;
    padding: 6px 0;
  }
  details div {
    display: grid;
    gap: 14px;
    padding-top: 8px;
  }
</style>
