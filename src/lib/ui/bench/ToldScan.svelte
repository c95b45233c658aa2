<!-- What became of the last scan, in a colour that is seen from afar. How large it is, a screen says by custom properties. -->
<script lang="ts">
  import type { Told } from './in-hand.ts';

  interface Props {
    told: Told;
    /** It is read out at once, whatever else is being said. */
    atOnce?: boolean;
  }
  let { told, atOnce = false }: Props = $props();
</script>

<p
  class="said {told.tone}"
  role={told.tone === 'refused' ? 'alert' : 'status'}
  aria-live={atOnce ? 'assertive' : undefined}
>
  {told.text}
</p>

<style>
  .said {
    min-height: var(--told-height, 58px);
    padding: var(--told-padding, 12px 16px);
    font-size: var(--told-size, 21px);
    font-weight: 600;
    line-height: 1.3;
    display: flex;
    align-items: center;
    background: var(--slate-pale);
  }
  .taken {
    background: var(--sea);
    color: #fff;
  }
  .refused {
    background: var(--rust);
    color: #fff;
  }
  .warned {
    background: var(--amber);
  }
  .ask {
    font-weight: 400;
    color: var(--ink-soft);
  }
</style>
