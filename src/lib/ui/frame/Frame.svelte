<!-- The frame every screen stands in: scan field above, rail at the left. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { afterNavigate } from '$app/navigation';
  import { navigating, page } from '$app/state';
  import { Modal } from 'carbon-components-svelte';
  import DockState from '../dock/DockState.svelte';
  import SignOut from '../dock/SignOut.svelte';
  import CameraScanner from './CameraScanner.svelte';
  import SimulatedScanner from './SimulatedScanner.svelte';
  import { RAIL } from './rail.ts';
  import { anchorOf, helpOf } from './help.ts';
  import { keepSeen } from './lately-seen.ts';
  import { FrameKeys, keys } from './keys.svelte.ts';
  import ScanField from './ScanField.svelte';
  import Lock from './Lock.svelte';
  import SignAct from './SignAct.svelte';
  import SignInAgain from './SignInAgain.svelte';
  import TourPanel from './TourPanel.svelte';

  let {
    who,
    lockMinutes,
    children
  }: {
    who: { login: string; name: string; roles: readonly string[] };
    lockMinutes: number;
    children: Snippet;
  } = $props();
  // The title stands once the page does.
  afterNavigate(({ to }) => {
    const href = to?.url.pathname ?? '';
    setTimeout(() => keepSeen(localStorage, who.login, { title: document.title, href }));
  });
  let scan: ScanField;
  let device: Lock;
  let locked = $state(false);
  let keysOpen = $state(false);
  const help = $derived(helpOf(page.route.id));
  const frameKeys = new FrameKeys({
    focusScan: () => scan.focus(),
    showKeys: () => (keysOpen = true),
    goOnScanning: (text) => scan.goOn(text)
  });
  let scannerOut = $state(false);
  let cameraOut = $state(false);
  /** Whether the dialog that prints or saves what is listed is open; few open it, so it comes then. */
  let listing = $state(false);
  const short = $derived(
    who.name
      .split(' ')
      .map((part, index) =>
        index === 0
          ? part
          : `${part
              .split('-')
              .map((piece) => piece[0])
              .join('.-')}.`
      )
      .join(' ')
  );
  /** The screen, or the one that was asked for and is on its way: the rail answers at once. */
  const shown = $derived(navigating.to?.url.pathname ?? page.url.pathname);
  const isHere = (href: string) =>
    href === '/'
      ? shown === '/'
      : shown.startsWith(href) ||
        (href === '/receive' && /^\/(labels|identify)\b/.test(shown)) ||
        (href === '/on-hand' &&
          /^\/(put-away|move|count|transfer|opening|value|history)\b/.test(shown)) ||
        (href === '/build' && /^\/(repack|teardown)\b/.test(shown)) ||
        (href === '/trace' && /^\/(marks|events)\//.test(shown));
</script>

<svelte:window
  onkeydowncapture={(event) => !locked && frameKeys.before(event)}
  onkeydown={(event) => !locked && frameKeys.handle(event)}
/>

<a class="skip" inert={locked} href="#sheet">Skip to the sheet</a>
<header inert={locked}>
  <a class="name" href="/"
    ><svg aria-hidden="true" viewBox="0 0 24 24" width="24" height="24"
      ><path d="M3 7l4-4h14v18H7l-4-4z" fill="none" stroke="#f0b95b" stroke-width="2.4" /><circle
        cx="9"
        cy="12"
        r="2"
        fill="#f0b95b"
      /></svg
    >Earmark</a
  >
  <ScanField
    bind:this={scan}
    login={who.login}
    {cameraOut}
    oncamera={() => (cameraOut = !cameraOut)}
  />
  <div class="who">
    <DockState login={who.login} />
    <button
      class="scanner"
      onclick={() => (scannerOut = !scannerOut)}
      aria-pressed={scannerOut}
      title="Simulated scanner and probe"
      aria-label="Simulated scanner and probe"
      ><svg aria-hidden="true" viewBox="0 0 24 24" width="18" height="18"
        ><path
          d="M3 5v14M6.5 5v14M9 5v14M12.5 5v14M15 5v14M18 5v14M21 5v14"
          stroke="currentColor"
          stroke-width="1.7"
        /></svg
      ></button
    >
    <button
      class="scanner"
      onclick={() => (listing = true)}
      title="Print or save what is listed"
      aria-label="Print or save what is listed"
      ><svg aria-hidden="true" viewBox="0 0 24 24" width="18" height="18"
        ><path
          d="M7 9V3h10v6M7 17H3V9h18v8h-4M7 14h10v7H7z"
          fill="none"
          stroke="currentColor"
          stroke-width="1.7"
        /></svg
      ></button
    >
    <button
      class="keys"
      onclick={() => (keysOpen = true)}
      aria-label="What this screen is for, and its keys">?</button
    >
    <a class="account" href="/account" title="Your account · {who.name}: {who.roles.join(', ')}"
      >{short}</a
    >
    <button onclick={() => device.lock()}>Lock</button>
    <span class="out"><SignOut /></span>
  </div>
</header>
<nav aria-label="Screens" inert={locked}>
  {#each RAIL as { name, href, key } (href)}
    <a {href} aria-current={isHere(href) ? 'page' : undefined}
      ><span>{name}</span><span class="key" aria-hidden="true">{key}</span></a
    >
  {/each}
</nav>
{#if navigating.to}<div class="going" aria-hidden="true"></div>{/if}
<main id="sheet" tabindex="-1" inert={locked} aria-busy={navigating.to !== null}>
  {@render children()}
</main>

<Modal bind:open={keysOpen} passiveModal modalLabel="This screen" size="sm">
  {#if help}<p class="about">{help.says}</p>
    <p class="about">
      <a href="/help#{anchorOf(help.task)}" onclick={() => (keysOpen = false)}
        >How it is done: {help.task}</a
      >
    </p>{/if}
  <dl class="keylist">
    {#each keys.screen as { key, says } (key)}<dt><kbd>{key}</kbd></dt>
      <dd>{says}</dd>{/each}
    <dt><kbd>/</kbd> <kbd>Ctrl+K</kbd></dt>
    <dd>scan or type any number, or what to do: count C1, recall BOB-2511, new sales</dd>
    {#if !keys.screen.some(({ key }) => key === 'Ctrl+Enter')}<dt><kbd>Ctrl+Enter</kbd></dt>
      <dd>what the filled button says, also of a dialog</dd>{/if}
    <dt><kbd>j</kbd> <kbd>k</kbd></dt>
    <dd>down and up through a list, Enter opens</dd>
    {#each RAIL as { name, key } (key)}<dt><kbd>g</kbd> <kbd>{key}</kbd></dt>
      <dd>{name}</dd>{/each}
    <dt><kbd>Esc</kbd></dt>
    <dd>back out, keeping the draft</dd>
  </dl>
</Modal>
{#if listing}
  {#await import('./listed/ListDialog.svelte') then { default: ListDialog }}
    <ListDialog onclose={() => (listing = false)} />
  {/await}
{/if}
{#if cameraOut}<CameraScanner onclose={() => (cameraOut = false)} />{/if}
{#if scannerOut}<SimulatedScanner onclose={() => (scannerOut = false)} />{/if}
{#if !locked}<TourPanel login={who.login} />{/if}
<SignInAgain login={who.login} />
<SignAct {who} />
<Lock bind:this={device} bind:locked {who} minutes={lockMinutes} />

<style>
  .about {
    margin-bottom: 12px;
  }
  .skip {
    position: absolute;
    left: -999px;
    top: 0;
    background: var(--panel);
    padding: 8px 12px;
    z-index: 100;
  }
  .skip:focus {
    left: 8px;
  }
  header {
    position: fixed;
    inset: 0 0 auto 0;
    height: 52px;
    display: flex;
    align-items: center;
    gap: 20px;
    padding: 0 16px;
    background: var(--ink);
    color: #fff;
    z-index: 40;
  }
  .name {
    display: flex;
    align-items: center;
    gap: 9px;
    width: 156px;
    flex: none;
    font-size: 18px;
    font-weight: 600;
    color: #fff;
    text-decoration: none;
  }
  .who {
    margin-left: auto;
    display: flex;
    align-items: center;
    gap: 14px;
    font-size: 14px;
    white-space: nowrap;
  }
  .who > button,
  .out :global(button) {
    background: none;
    border: 0;
    color: #f3dfb6;
    font-size: 14px;
    cursor: pointer;
    padding: 8px 4px;
    text-decoration: underline;
  }
  .who .account {
    color: #fff;
    text-underline-offset: 3px;
  }
  .who .scanner {
    display: grid;
    place-items: center;
    width: 28px;
    height: 28px;
    padding: 0;
    color: #dfe4e7;
  }
  .who .scanner[aria-pressed='true'] {
    color: #f0b95b;
  }
  .who .keys {
    text-decoration: none;
    border: 1px solid #8a979f;
    border-radius: 2px;
    width: 26px;
    height: 26px;
    padding: 0;
    color: #dfe4e7;
  }
  /* A screen that is on its way; one that comes at once is not announced. */
  .going {
    position: fixed;
    inset: 52px 0 auto 0;
    height: 3px;
    background: #f0b95b;
    transform-origin: left;
    animation: going 6s 40ms cubic-bezier(0.1, 0.8, 0.3, 1) both;
    z-index: 41;
  }
  @keyframes going {
    from {
      transform: scaleX(0);
    }
    1% {
      transform: scaleX(0.12);
    }
    to {
      transform: scaleX(0.9);
    }
  }
  @media (prefers-reduced-motion: reduce) {
    .going {
      animation: none;
      opacity: 0.8;
    }
  }
  nav {
    position: fixed;
    inset: 52px auto 0 0;
    width: 112px;
    padding-top: 10px;
    background: var(--paper-deep);
    border-right: 1px solid var(--line);
    z-index: 30;
  }
  nav a {
    display: flex;
    justify-content: space-between;
    align-items: center;
    min-height: 40px;
    padding: 0 14px;
    color: var(--ink);
    text-decoration: none;
    border-left: 3px solid transparent;
  }
  nav a:hover {
    background: var(--paper);
  }
  nav a[aria-current] {
    background: var(--paper);
    border-left-color: var(--brass);
    font-weight: 600;
  }
  .key {
    font: 600 12px var(--mono);
    color: var(--brass);
  }
  main {
    position: fixed;
    inset: 52px 0 0 112px;
    overflow: auto;
    outline: none;
    background: var(--panel);
  }
  .keylist {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 8px 16px;
    align-items: baseline;
  }
  @media (max-width: 700px) {
    header {
      gap: 8px;
      padding: 0 8px;
    }
    .name {
      width: auto;
      font-size: 0;
      gap: 0;
    }
    .keys,
    .scanner,
    .who .out {
      display: none !important;
    }
    nav {
      inset: auto 0 0 0;
      width: auto;
      height: 52px;
      display: flex;
      padding: 0;
      overflow-x: auto;
      border-right: 0;
      border-top: 1px solid var(--line);
    }
    nav a {
      flex: 1;
      justify-content: center;
      min-height: 52px;
      padding: 0 8px;
      font-size: 13px;
      border-left: 0;
      border-top: 3px solid transparent;
      white-space: nowrap;
    }
    nav a[aria-current] {
      border-top-color: var(--brass);
    }
    .key {
      display: none;
    }
    main {
      inset: 52px 0 52px 0;
    }
  }
</style>
