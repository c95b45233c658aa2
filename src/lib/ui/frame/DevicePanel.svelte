<!-- Something to scan with, in a corner over the screen: what it types goes to whatever had the focus. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    /** What it is called. */
    name: string;
    title: string;
    /** What had the focus before the device was reached for, or has got it since. */
    target: Element | null;
    onclose: () => void;
    children: Snippet;
  }
  let { name, title, target = $bindable(), onclose, children }: Props = $props();
</script>

<svelte:window
  onfocusin={(event) => {
    const element = event.target as Element;
    if (!element.closest('.device')) target = element;
  }}
/>
<aside class="device" aria-label={name}>
  <div class="head">
    <h2>{title}</h2>
    <button class="act quiet" aria-label="Put the {name.toLowerCase()} away" onclick={onclose}
      >✕</button
    >
  </div>
  {@render children()}
</aside>

<style>
  .device {
    position: fixed;
    right: 14px;
    bottom: 76px;
    width: 330px;
    max-height: min(70vh, calc(100vh - 140px));
    overflow: auto;
    z-index: 60;
    background: var(--panel);
    border: 1px solid var(--ink);
    border-top: 4px solid var(--brass);
    box-shadow: 0 10px 30px rgb(29 41 48 / 30%);
    padding: 12px 14px;
    display: grid;
    gap: 10px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: center;
  }
  .device :global(.inline) {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 28px;
  }
  @media (max-width: 700px) {
    .device {
      inset: auto 0 52px 0;
      width: auto;
    }
  }
</style>
