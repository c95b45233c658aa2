<!-- Says of a list that is cut how much of it is there, and how the rest is come by. -->
<script lang="ts">
  import { sayQuantity } from './say.ts';

  interface Props {
    shown: number;
    total: number;
    /** What is listed, in the plural: `lots and serials`. */
    of: string;
    /** How to see the rest, as the end of the sentence. */
    rest?: string;
  }
  let { shown, total, of, rest = '' }: Props = $props();
</script>

{#if shown < total}<p class="small soft" role="note">
    {sayQuantity(String(shown))} of {sayQuantity(String(total))}
    {of} are listed{rest ? `; ${rest}` : ''}.
  </p>{/if}
