<script lang="ts">
  let { form } = $props();
</script>

<svelte:head><title>Sign in · Earmark</title></svelte:head>
<main>
  <div class="tag">
    <svg aria-hidden="true" viewBox="0 0 420 400" preserveAspectRatio="none"
      ><path
        vector-effect="non-scaling-stroke"
        d="M36 1 L419 1 L419 399 L36 399 L1 364 L1 36 Z"
        fill="#fff"
        stroke="#1d2930"
        stroke-width="1.6"
      /></svg
    >
    <span class="hole" aria-hidden="true"></span>
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
  </div>
</main>

<style>
  main {
    min-height: 100vh;
    display: grid;
    place-items: center;
    background: var(--paper-deep);
    padding: 20px;
  }
  .tag {
    position: relative;
    width: min(420px, 100%);
    padding: 40px 44px 40px 72px;
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    filter: drop-shadow(0 10px 24px rgb(29 41 48 / 14%));
  }
  .hole {
    position: absolute;
    left: 26px;
    top: 50%;
    width: 20px;
    height: 20px;
    margin-top: -10px;
    border: 1.6px solid var(--ink);
    border-radius: 50%;
    background: var(--paper-deep);
  }
  form {
    position: relative;
    display: grid;
    gap: 16px;
  }
  h1 {
    font-size: 30px;
  }
  p {
    color: var(--ink-soft);
    margin-top: -8px;
  }
  .refused {
    margin: 0;
    padding: 10px 12px;
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    font-size: 14px;
  }
  .act {
    justify-content: center;
    min-height: 46px;
  }
</style>
