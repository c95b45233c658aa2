<!-- The customers of a case: letters and reminders to them, and what they answer. -->
<script lang="ts">
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { noAmount, type Amounts } from '../../core/recall/amounts.ts';
  import { count, dayOfInstant, sayInstant, sayQuantity } from '../parts/say.ts';
  import { typedWhole } from '../parts/typed-whole.ts';
  import CustomerAnswers from './CustomerAnswers.svelte';
  import CaseInLanguage from './CaseInLanguage.svelte';
  import { languagesOf, type RecallCase } from './case.ts';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    page: RecallCase;
    live: boolean;
    busy: boolean;
    /** Does something with the case; what it answers becomes what is said. */
    act: (name: string, body: object, says: (answer: never) => string) => Promise<boolean>;
  }
  let { page, live, busy, act }: Props = $props();
  let opened = $state<string | null>(null);

  const acting = $derived(live && page.decidedAt !== null && page.customers.length > 0);
  const unwritten = $derived(page.standing.customers.filter((one) => !one.notified));
  const toRemind = $derived(
    page.standing.customers.filter(
      (one) => one.notified && !(noAmount(one.open) && (page.mock || noAmount(one.reported)))
    )
  );
  const noAddress = $derived(page.customers.filter((one) => one.address === ''));
  const standingOf = (partner: string) =>
    page.standing.customers.find((one) => one.partner === partner)!;
  const lettersTo = (partner: string) => page.notices.filter((one) => one.partner === partner);
  const PAPERS = 4;
  function papersOf(customer: RecallCase['customers'][number]): string[] {
    const papers = [...new Set(customer.rows.map((row) => row.document))];
    const more = papers.length - PAPERS;
    return more > 0 ? [...papers.slice(0, PAPERS), `and ${more} more`] : papers;
  }

  const write = () =>
    act(
      'notices',
      { partners: unwritten.map((one) => one.partner) },
      (answer: { sent: number }) => `✓ ${count(answer.sent, 'notice')} into the outbox.`
    );
  const remind = () =>
    act(
      'reminders',
      { partners: toRemind.map((one) => one.partner) },
      (answer: { sent: number }) => `✓ ${count(answer.sent, 'reminder')} into the outbox.`
    );
  const remindAfter = (text: string) => {
    const days = typedWhole(text);
    return act('reminding', { days }, () =>
      days === null
        ? '✓ Reminders go out by hand only.'
        : `✓ Who does not answer is reminded after ${count(Number(days), 'day')}.`
    );
  };
</script>

{#snippet amounts(list: Amounts)}
  {#each list as one (one.unit)}<span class="amount">{sayQuantity(one.quantity)} {one.unit}</span
    >{:else}–{/each}
{/snippet}

<section class="step">
  <h2><span class="no">4</span> Customers <span>{page.customers.length}</span></h2>
  {#if acting}<div class="acts">
      {#if unwritten.length > 0}<button class="act" disabled={busy} onclick={write}
          >Write to {count(unwritten.length, 'customer')}</button
        >{:else}<span class="good small">✓ All have their notice.</span>{/if}
      {#if toRemind.length > 0}<button class="act" disabled={busy} onclick={remind}
          >Remind {count(toRemind.length, 'customer')}</button
        >{/if}
      <label class="small"
        >reminders go out by themselves after <input
          class="field number days"
          inputmode="numeric"
          value={page.remindDays ?? ''}
          placeholder="never"
          disabled={busy}
          maxlength="3"
          onchange={(event) => remindAfter(event.currentTarget.value)}
        /> days without an answer</label
      >
    </div>
    {#if noAddress.length > 0}<p class="small mind">
        Without an address: {noAddress.map((one) => one.name).join(', ')}.
        <a href="/setup/partners">Say it in Setup</a> before the letters go.
      </p>{/if}{/if}
  {#each languagesOf(page.customers) as { language, readers } (language)}
    <CaseInLanguage {page} {language} {readers} {live} />
  {/each}
  <WideTable of="customers">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Customer</th><th scope="col" class="right">Had</th><th
            scope="col"
            class="right">Returned</th
          ><th scope="col" class="right">Reported</th><th scope="col" class="right">Destroyed</th
          ><th scope="col" class="right">Written off</th><th scope="col" class="right">Open</th><th
            scope="col">Papers and letters</th
          ><th scope="col"><span class="visually-hidden">Answer</span></th></tr
        ></thead
      >
      <tbody
        >{#each page.customers as customer (customer.partner)}
          {@const own = standingOf(customer.partner)}
          <tr
            ><td
              ><b>{customer.name}</b><br /><span class="small soft">{count(own.marks, 'mark')}</span
              ></td
            >
            <td class="right number">{@render amounts(own.had)}</td>
            <td class="right number">{@render amounts(own.returned)}</td>
            <td class="right number" class:stop={!page.mock && !noAmount(own.reported)}
              >{@render amounts(own.reported)}</td
            >
            <td class="right number">{@render amounts(own.destroyed)}</td>
            <td class="right number">{@render amounts(own.writtenOff)}</td>
            <td
              class="right number"
              class:stop={!noAmount(own.open)}
              class:good={noAmount(own.open)}
              >{#if noAmount(own.open)}<b>✓ nothing</b>{:else}<b>{@render amounts(own.open)}</b
                >{/if}</td
            >
            <td class="small lines"
              >{#each papersOf(customer) as paper (paper)}<span class="number">{paper}</span
                >{/each}{#each lettersTo(customer.partner) as letter (letter.id)}<a
                  href="/api/v1/recalls/{page.number}/notices/{letter.id}"
                  target="_blank"
                  rel="noopener"
                  title="{sayInstant(letter.sentAt)}{letter.byItself ? ', by itself' : ''}"
                  >{letter.kind} {sayDay(dayOfInstant(letter.sentAt))}</a
                >{:else}<span class="soft">no letter yet</span>{/each}</td
            >
            <td
              >{#if acting}<button
                  class="act quiet"
                  aria-expanded={opened === customer.partner}
                  onclick={() => (opened = opened === customer.partner ? null : customer.partner)}
                  >{opened === customer.partner ? 'Close' : 'Answer …'}</button
                >{/if}</td
            ></tr
          >
          {#if opened === customer.partner}
            <tr class="answers"
              ><td colspan="9">
                <CustomerAnswers
                  {customer}
                  answers={page.answers}
                  {busy}
                  onkeep={(answers) =>
                    act(
                      'answers',
                      { answers },
                      () => `✓ ${count(answers.length, 'answer')} of ${customer.partner} kept.`
                    )}
                />
              </td></tr
            >
          {/if}
        {:else}<tr><td colspan="9" class="soft">No customer has anything of it.</td></tr
          >{/each}</tbody
      >
    </table>
  </WideTable>
</section>

<style>
  .step {
    display: grid;
    gap: 8px;
    border-top: 2px solid var(--ink);
    padding-top: 8px;
  }
  h2 {
    display: flex;
    gap: 10px;
    align-items: baseline;
    font-size: 16px;
    color: var(--ink);
  }
  h2 span:last-child {
    font-weight: 400;
    color: var(--ink-soft);
    font-size: 14px;
  }
  .no {
    font-family: var(--mono);
    color: var(--brass);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
  }
  .amount {
    display: block;
    white-space: nowrap;
  }
  .lines > * {
    display: block;
    white-space: nowrap;
  }
  .days {
    width: 70px;
    height: 32px;
    text-align: right;
  }
  .answers > td {
    background: var(--brass-pale);
  }
</style>
