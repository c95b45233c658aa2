<!-- What a refusal says that belongs to no field of the form. -->
<script lang="ts">
  import type { Refusal } from '../frame/api.ts';
  import { otherErrors } from './refusal.ts';

  interface Props {
    refusal: Refusal | null;
    /** Paths that are said at their fields. */
    known?: readonly string[];
  }
  let { refusal, known = [] }: Props = $props();
</script>

{#each otherErrors(refusal, known) as message, index (index)}<p class="refused" role="alert">
    {message}
  </p>{/each}
