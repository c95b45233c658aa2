<!-- What a plan would ask for and refuse at any kind of event, and its verdict on what is typed in to try. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { answeredAt, askedAt, BIRTHS } from '../../core/catalogue/ask.ts';
  import {
    CHECKPOINTS,
    planFaults,
    type Checkpoint,
    type MarkingPlan
  } from '../../core/catalogue/plan.ts';
  import type { tryPlan } from '../../core/making/try-plan.ts';

  let { plan, today }: { plan: MarkingPlan; today: string } = $props();
  let checkpoint = $state<Checkpoint>('receive');
  let given = $state<Record<string, string>>({});
  const SAYS: Record<Checkpoint, string> = {
    receive: 'receiving',
    'put away': 'putting away',
    move: 'moving',
    transfer: 'a transfer',
    issue: 'using it in a build',
    output: 'making it',
    ship: 'shipping',
    return: 'a return',
    gain: 'a gain',
    loss: 'a loss',
    count: 'a count'
  };
  const HOW = { must: 'must be given', may: 'may be given', 'fills itself': 'fills itself' };
  const ANSWER = {
    stop: 'refused',
    'second person': 'only with a second person',
    reason: 'only with a reason',
    note: 'shown'
  };

  const fields = $derived(askedAt(plan, checkpoint));
  const answers = $derived(answeredAt(plan, checkpoint));
  const faults = $derived(planFaults(plan));
  /** The decisions that book, read once the page is there: no screen has to carry them. */
  let decides = $state.raw<typeof tryPlan | null>(null);
  onMount(async () => {
    decides = (await import('../../core/making/try-plan.ts')).tryPlan;
  });
  /** Only what is born can be tried in full: what is used must be there first. */
  const verdict = $derived(
    decides && BIRTHS.includes(checkpoint) && plan.identity !== 'none' && faults.length === 0
      ? decides(plan, checkpoint, given, today)
      : null
  );
</script>

<aside aria-label="Try it">
  <h2>Try it</h2>
  <label class="stack"
    >at<select class="field" bind:value={checkpoint}
      >{#each CHECKPOINTS as one (one)}<option value={one}>{SAYS[one]}</option>{/each}</select
    ></label
  >
  <h3>Asked</h3>
  <ul class="asked">
    {#each fields as field (field.key)}
      <li>
        {#if verdict}
          <label
            ><span
              >{field.says}{field.unit ? `, ${field.unit}` : ''}
              <span class="small soft">{HOW[field.how]}</span></span
            ><input
              class="field"
              value={given[field.key] ?? ''}
              placeholder={verdict.ok ? (verdict.filled[field.key] ?? '') : ''}
              oninput={(event) => (given = { ...given, [field.key]: event.currentTarget.value })}
            /></label
          >
        {:else}<span>{field.says}{field.unit ? `, ${field.unit}` : ''}</span>
          <span class="small soft">{HOW[field.how]}</span>{/if}
      </li>
    {/each}
  </ul>
  {#if verdict}
    <div class="verdict" aria-live="polite">
      {#each verdict.faults as fault, index (index)}<p class={fault.answer ? 'reason' : 'stop'}>
          <b aria-hidden="true">{fault.answer ? '!' : '✕'}</b>
          {fault.message}
        </p>{/each}
      {#each verdict.notes as note, index (index)}<p class="note">
          <b aria-hidden="true">i</b>
          {note.message}
        </p>{/each}
      {#if verdict.ok}<p class="good">✓ It would be booked.</p>{/if}
    </div>
  {/if}
  {#if faults.length > 0}<div class="verdict">
      {#each faults as fault (fault)}<p class="stop">{fault}</p>{/each}
    </div>{/if}
  <h3>Where something is wrong</h3>
  <ul class="answers">
    {#each answers as one (one.says)}<li>
        <span>{one.says}</span><b class={one.answer === 'second person' ? 'reason' : one.answer}
          >{ANSWER[one.answer]}</b
        >
      </li>{/each}
  </ul>
</aside>

<style>
  aside {
    display: grid;
    gap: 10px;
    align-content: start;
    background: var(--paper);
    border: 1px solid var(--line);
    border-top: 3px solid var(--brass);
    padding: 14px 16px;
    font-size: 14px;
  }
  h3 {
    font-size: 14px;
    margin-top: 4px;
  }
  ul {
    display: grid;
    gap: 6px;
  }
  .asked label {
    display: grid;
    gap: 2px;
  }
  .asked input {
    height: 34px;
  }
  .answers li {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    border-bottom: 1px solid #ebe5da;
    padding-bottom: 4px;
  }
  .answers b {
    white-space: nowrap;
  }
  .answers .stop {
    color: var(--rust);
  }
  .answers .reason {
    color: #6a4a05;
  }
  .answers .note {
    color: var(--slate);
  }
  .verdict {
    display: grid;
    gap: 6px;
  }
  .verdict p {
    padding: 7px 10px;
  }
  .verdict .stop {
    background: var(--rust-pale);
    color: var(--rust);
  }
  .verdict .reason {
    background: var(--amber);
  }
  .verdict .note {
    background: var(--slate-pale);
  }
  .verdict .good {
    color: var(--sea);
    font-weight: 600;
    padding-left: 0;
  }
</style>
