<!-- A mark drawn as a tag: left corners cut and a punched hole; a lot has an open hole, a serial a notched right edge. -->
<script lang="ts">
  interface Props {
    kind: 'lot' | 'serial' | 'bulk';
    number: string | null;
    /** The small line beneath: product, quantity, place. */
    under?: string;
    state?: 'usable' | 'held' | 'rejected';
    /** Said in rust where given. */
    expired?: string;
    href?: string;
    large?: boolean;
    selected?: boolean;
  }
  let {
    kind,
    number,
    under = '',
    state = 'usable',
    expired,
    href,
    large = false,
    selected = false
  }: Props = $props();
  const kindWord = $derived(kind === 'bulk' ? 'unmarked' : kind);
</script>

<svelte:element
  this={href ? 'a' : 'span'}
  {href}
  class="tag {kind} {state}"
  class:large
  class:selected
>
  <svg aria-hidden="true" preserveAspectRatio="none" viewBox="0 0 200 44">
    {#if state === 'held'}
      <defs
        ><pattern
          id="held-hatch"
          width="8"
          height="8"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
          ><rect width="8" height="8" fill="#fff" /><rect
            width="3.5"
            height="8"
            fill="#f6dcd5"
          /></pattern
        ></defs
      >
    {/if}
    {#if kind === 'serial'}
      <path
        vector-effect="non-scaling-stroke"
        d="M7 1 L194 1 L198 6.2 L194 11.4 L198 16.6 L194 21.8 L198 27 L194 32.2 L198 37.4 L195 43 L7 43 L1 36 L1 8 Z"
      />
    {:else}
      <path
        vector-effect="non-scaling-stroke"
        d="M7 1 L199 1 L199 43 L7 43 L1 36 L1 8 Z"
        stroke-dasharray={kind === 'bulk' ? '4 3' : undefined}
      />
    {/if}
  </svg>
  {#if kind === 'lot'}<span class="hole" aria-hidden="true"></span>{/if}
  <span class="text">
    <span class="visually-hidden">{kindWord}</span>
    <span class="top number">{number ?? 'unmarked'}</span>
    <span class="under"
      >{under}{#if state !== 'usable'}<b class="state">{under ? ' · ' : ''}{state}</b
        >{/if}{#if expired}<b class="expired">{under ? ' · ' : ''}{expired}</b>{/if}</span
    >
  </span>
</svelte:element>

<style>
  .tag {
    position: relative;
    display: inline-flex;
    align-items: center;
    gap: 8px;
    min-width: 150px;
    max-width: 100%;
    min-height: 42px;
    padding: 3px 16px 3px 12px;
    color: var(--ink);
    text-decoration: none;
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
  path {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  .held path {
    fill: url('#held-hatch');
    stroke: var(--rust);
  }
  .rejected path {
    fill: var(--ink);
  }
  .rejected {
    color: #fff;
  }
  .rejected .top {
    text-decoration: line-through;
  }
  .selected path {
    stroke: var(--brass);
    stroke-width: 2.4;
  }
  a.tag:hover path {
    stroke-width: 2.2;
  }
  .hole {
    position: relative;
    flex: none;
    width: 8px;
    height: 8px;
    border: 1.4px solid currentColor;
    border-radius: 50%;
    background: var(--paper);
  }
  .text {
    position: relative;
    display: grid;
    min-width: 0;
  }
  .top {
    font-weight: 600;
    font-size: 13.5px;
    line-height: 1.3;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .under {
    font-size: 12px;
    line-height: 1.3;
    color: var(--ink-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .rejected .under {
    color: #dfe4e7;
  }
  .held .state,
  .expired {
    color: var(--rust);
    font-weight: 600;
  }
  .large {
    min-height: 62px;
    padding: 6px 28px 6px 18px;
  }
  .large .top {
    font-size: 22px;
  }
  .large .under {
    font-size: 14px;
  }
  .large .hole {
    width: 12px;
    height: 12px;
  }
</style>
