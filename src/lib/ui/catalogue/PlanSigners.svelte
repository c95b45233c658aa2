<!-- What a plan has signed, and by whom, as sentences. -->
<script lang="ts">
  import type { MarkingPlan } from '../../core/catalogue/plan.ts';
  import { ACTS, SIGNED_ACTS, SIGNERS } from '../../core/people/signing.ts';
  import Word from './Word.svelte';

  interface Props {
    plan: MarkingPlan;
    disabled: boolean;
    onset: (change: Partial<MarkingPlan>) => void;
  }
  let { plan, disabled, onset }: Props = $props();
  const options = SIGNERS.map((value) => ({ value, says: value }));
</script>

<section>
  <h2>What is signed</h2>
  {#each ACTS as act (act)}
    {@const signer = plan.signers?.[act] ?? 'nobody'}
    <p>
      Where {SIGNED_ACTS[act].says}, <Word
        label="Who signs where {SIGNED_ACTS[act].says}"
        {disabled}
        value={signer}
        {options}
        onchange={(chosen) => onset({ signers: { ...plan.signers, [act]: chosen } })}
      />
      {signer === 'nobody' ? 'signs.' : `signs with their password: ${SIGNED_ACTS[act].means}.`}
    </p>
  {/each}
  <p class="soft">
    Always signed: a test by a second person (checked by), and a recall by two before it is closed
    (approved by). A fault that goes on by a second person’s word is signed by that person.
  </p>
</section>

<style>
  .soft {
    font-size: 15px;
  }
</style>
