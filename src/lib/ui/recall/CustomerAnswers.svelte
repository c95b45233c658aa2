<!-- What a customer answers, lot by lot: what was told before with its note, and the cells for more. -->
<script lang="ts">
  import { OUTCOMES } from '../../core/recall/standing.ts';
  import { sayAmount, sayInstant } from '../parts/say.ts';
  import { answersTyped, cellOf, goodsOf, restReturned, type CustomerOfCase } from './case.ts';
  import type { RecallCase } from './case.ts';

  interface Props {
    customer: CustomerOfCase;
    answers: RecallCase['answers'];
    busy: boolean;
    /** Sends them; says whether they were kept. */
    onkeep: (answers: ReturnType<typeof answersTyped>) => Promise<boolean>;
  }
  let { customer, answers, busy, onkeep }: Props = $props();
  let typed = $state<Record<string, string>>({});
  let note = $state('');
  let empty = $state(false);
  const goods = $derived(goodsOf(customer, answers));

  async function keep(): Promise<void> {
    const given = answersTyped(customer.partner, goods, typed, note.trim());
    empty = given.length === 0;
    if (empty || !(await onkeep(given))) return;
    typed = {};
    note = '';
  }
</script>

<table class="plain">
  <thead
    ><tr
      ><th scope="col">Lot or serial</th><th scope="col" class="right">Had</th
      >{#each OUTCOMES as outcome (outcome)}<th scope="col" class="right">{outcome}</th>{/each}</tr
    ></thead
  ><tbody>
    {#each goods as row (row.mark)}<tr
        ><td
          ><a class="number" href="/marks/{row.mark}">{row.number ?? row.product}</a>
          <span class="small soft">{row.product}</span>
          {#each row.told as one (one.id)}<p class="small told">
              {sayAmount(one.quantity, row.unit)}
              {one.outcome}{one.note ? `: “${one.note}”` : ''}
              <span class="soft">{sayInstant(one.toldAt)}, {one.who}</span>
            </p>{/each}</td
        ><td class="right number">{sayAmount(row.had, row.unit)}</td
        >{#each OUTCOMES as outcome (outcome)}<td class="right"
            ><input
              class="field number amount"
              inputmode="decimal"
              value={typed[cellOf(row.mark, outcome)] ?? ''}
              oninput={(event) =>
                (typed = { ...typed, [cellOf(row.mark, outcome)]: event.currentTarget.value })}
              aria-label="{row.number ?? row.product} {outcome}"
            /></td
          >{/each}</tr
      >{/each}
  </tbody>
</table>
{#if empty}<p class="refused" role="alert">
    Type how much of each was returned, destroyed or written off.
  </p>{/if}
<div class="acts">
  <button class="act quiet" onclick={() => (typed = { ...typed, ...restReturned(goods) })}
    >All the rest returned</button
  ><input
    class="field note"
    placeholder="note: who said so, why written off"
    bind:value={note}
    aria-label="Note to the answers of {customer.name}"
    maxlength="2000"
  /><button class="act main" disabled={busy} onclick={keep}>Keep their answer</button>
</div>

<style>
  .amount {
    width: 84px;
    height: 34px;
    text-align: right;
  }
  .note {
    flex: 1;
    min-width: 180px;
    height: 36px;
  }
  .told {
    margin: 2px 0 0;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
    padding-top: 8px;
  }
</style>
