<!-- Recovery codes are told once: they are written down, printed or kept before anything goes on. -->
<script lang="ts">
  let {
    codes,
    login,
    onkept
  }: { codes: readonly string[]; login: string; onkept: () => Promise<void> } = $props();
  const text = $derived(`Earmark, recovery codes of ${login}\n\n${codes.join('\n')}\n`);
  const file = $derived(`data:text/plain;charset=utf-8,${encodeURIComponent(text)}`);
</script>

<div class="mind codes" role="status">
  <p>
    <b>Recovery codes, told only now.</b> Each stands in for your second factor once. Keep them where
    your device is not.
  </p>
  <ol>
    {#each codes as code (code)}<li class="number">{code}</li>{/each}
  </ol>
  <p class="acts">
    <a class="act" href={file} download="recovery-codes-{login}.txt">As a file</a>
    <button class="act main" onclick={onkept}>I have kept them</button>
  </p>
</div>

<style>
  .codes {
    display: grid;
    gap: 10px;
  }
  ol {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 2px 16px;
  }
  ol li {
    border: 0 !important;
    padding: 0 !important;
    font-size: 15px;
  }
  .acts {
    display: flex;
    gap: 12px;
  }
</style>
