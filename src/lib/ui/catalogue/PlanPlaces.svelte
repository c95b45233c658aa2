<!-- Where a plan has goods lie first, as sentences. -->
<script lang="ts">
  import { DESTINATIONS, type Destination, type MarkingPlan } from '../../core/catalogue/plan.ts';
  import Word from './Word.svelte';

  interface Props {
    plan: MarkingPlan;
    disabled: boolean;
    onset: (change: Partial<MarkingPlan>) => void;
  }
  let { plan, disabled, onset }: Props = $props();
  const SAYS: Record<Destination, string> = {
    'the place named': 'the place named',
    quarantine: 'the quarantine of its site'
  };
  const options = DESTINATIONS.map((value) => ({ value, says: SAYS[value] }));
</script>

<section>
  <h2>Where it lies first</h2>
  <p>
    What is received lies at <Word
      label="Where what is received lies first"
      {disabled}
      value={plan.receivedTo}
      {options}
      onchange={(receivedTo) => onset({ receivedTo })}
    />, and what customers send back at <Word
      label="Where what customers send back lies first"
      {disabled}
      value={plan.returnedTo}
      {options}
      onchange={(returnedTo) => onset({ returnedTo })}
    />; in a recall at <Word
      label="Where what comes back in a recall lies first"
      {disabled}
      value={plan.recalledTo}
      {options}
      onchange={(recalledTo) => onset({ recalledTo })}
    />; and what a count finds at <Word
      label="Where what a count finds lies first"
      {disabled}
      value={plan.foundTo}
      {options}
      onchange={(foundTo) => onset({ foundTo })}
    />. What lies in quarantine is free for nothing until quality moves it out.
  </p>
</section>
