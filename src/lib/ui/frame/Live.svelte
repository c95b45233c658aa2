<!-- Shows what others booked as it happens. Nothing moves under a hand: while somebody points, types
     or scrolls the screen stays as it is, and says that there is more. -->
<script lang="ts">
  import type { Topic } from '$lib/core/topics.ts';
  import { followNews } from './news.ts';
  import { refresh } from './refresh.ts';
  import { untilStill, watchHand } from './still-hand.ts';

  interface Props {
    of: readonly Topic[];
    /** What is read anew, as a page's `load` names it; everything where left out. */
    only?: string;
    /** Called in place of reading anew. */
    show?: () => Promise<unknown>;
  }
  let { of, only, show = () => refresh(only) }: Props = $props();
  /** A screen that takes long to read is read that much less often. */
  const REST = 4;
  const LEAST_REST_MS = 500;
  /** So long a hand may move before it is told that there is more. */
  const SAY_AFTER_MS = 2_000;

  let isWaiting = $state(false);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let saying: ReturnType<typeof setTimeout> | undefined;
  let isDue = false;
  let restsUntil = 0;

  function changed(): void {
    isDue = true;
    saying ??= setTimeout(() => (isWaiting = isDue), SAY_AFTER_MS);
    if (timer === undefined) void next();
  }
  async function next(): Promise<void> {
    timer = undefined;
    const wait = Math.max(untilStill(), restsUntil - performance.now());
    if (wait > 0) timer = setTimeout(() => void next(), wait);
    else if (isDue) await now();
  }
  async function now(): Promise<void> {
    clearTimeout(saying);
    saying = undefined;
    isDue = false;
    isWaiting = false;
    const begun = performance.now();
    await show().catch(() => {});
    restsUntil = performance.now() + Math.max(LEAST_REST_MS, REST * (performance.now() - begun));
    if (isDue && timer === undefined) void next();
  }

  $effect(() => {
    const endWatch = watchHand();
    const endNews = followNews(of, changed);
    return () => {
      endNews();
      endWatch();
      clearTimeout(timer);
      clearTimeout(saying);
    };
  });
</script>

<div aria-live="polite" class="news">
  {#if isWaiting}<button class="act" onclick={() => void now()}>There is news: show it</button>{/if}
</div>

<style>
  .news {
    position: fixed;
    right: 16px;
    bottom: 16px;
    z-index: 40;
  }
</style>
