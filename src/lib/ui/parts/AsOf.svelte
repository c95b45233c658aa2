<!-- Of when an answer is that is worked out beside the screens; shows the next one when it is there. -->
<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { sayInstant } from './say.ts';

  interface Props {
    /** ISO instant; null where there is none yet. */
    at: string | null;
    underWay: boolean;
  }
  let { at, underWay }: Props = $props();
  const LOOK_AGAIN_MS = 3_000;

  $effect(() => {
    if (!underWay) return;
    const timer = setInterval(() => void refresh(), LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  });
</script>

<span aria-live="polite"
  >{#if at === null}There is so much that this takes a while. It is being worked out, and shows here
    by itself.{:else if underWay}As of {sayInstant(at)}; being worked out anew.{:else}As of {sayInstant(
      at
    )}.{/if}</span
>
