<!-- How many are marked, how many still to go, what is wrong, and the one button that books. -->
<script lang="ts">
  import { sayQuantity, sayTime } from '../parts/say.ts';

  interface Props {
    marked: string;
    of: string;
    toGo: string;
    what?: string;
    faults: number;
    onnext: () => void;
    kept: string | null;
    keeping: boolean;
    /** What stands there is on this device and not on the server. */
    onlyHere?: boolean;
    /** It goes on where the line is lost, also after it is loaded again. */
    withoutLine?: boolean;
    action: string;
    disabled: boolean;
    busy: boolean;
    why?: string;
    onbook: () => void;
  }
  let {
    marked,
    of,
    toGo,
    what = 'marked',
    faults,
    onnext,
    kept,
    keeping,
    onlyHere = false,
    withoutLine = false,
    action,
    disabled,
    busy,
    why = '',
    onbook
  }: Props = $props();
  const saysKept = $derived.by(() => {
    if (onlyHere) return 'kept on this device only';
    if (keeping) return 'keeping draft …';
    return [kept ? `draft kept ${sayTime(kept)}` : '', withoutLine ? 'works without a line' : '']
      .filter(Boolean)
      .join(' · ');
  });
</script>

<span><b class="big number">{sayQuantity(marked)}</b> of {sayQuantity(of)} {what}</span>
<span><b class="big number">{sayQuantity(toGo)}</b> to go</span>
{#if faults > 0}
  <span class="stop"
    ><b class="big number">{faults}</b> fault{faults === 1 ? '' : 's'}
    <button class="next" onclick={onnext}>next fault</button> <kbd aria-hidden="true">n</kbd></span
  >
{/if}
<span class="end small soft" class:visually-hidden={faults > 0} role="status">{saysKept}</span>
<button class="act main book" {disabled} title={why} onclick={onbook}
  >{busy ? 'Booking …' : action}</button
>

<style>
  span {
    font-size: 14px;
    color: var(--ink-soft);
  }
  .big {
    font-family: var(--sans);
    font-size: 23px;
    color: var(--ink);
    margin-right: 3px;
  }
  .stop,
  .stop .big {
    color: var(--rust);
  }
  .next {
    border: 0;
    background: none;
    color: var(--rust);
    text-decoration: underline;
    cursor: pointer;
    padding: 6px 2px;
  }
  .end {
    margin-left: auto;
    max-width: 150px;
    text-align: right;
  }
  .book {
    margin-left: auto;
  }
  .end:not(.visually-hidden) + .book {
    margin-left: 0;
  }
  @media (max-width: 700px) {
    .end {
      display: none;
    }
    .book {
      width: 100%;
      justify-content: center;
      min-height: 48px;
    }
    kbd {
      display: none;
    }
  }
</style>
