<!-- Signatures under an event or a case: what each says, who gave it, when and why. -->
<script lang="ts">
  import { capital } from '../../core/capital.ts';
  import { sayInstant } from '../parts/say.ts';

  interface Props {
    signatures: readonly { means: string; by: string; at: string; reason: string }[];
  }
  let { signatures }: Props = $props();
</script>

{#each signatures as { means, by, at, reason }, index (index)}
  <p class="signed">
    {capital(means)} <b>{by}</b>, {sayInstant(at)}: “{reason}”
  </p>
{/each}

<style>
  .signed {
    border-left: 3px solid var(--sea);
    padding: 4px 12px;
  }
</style>
