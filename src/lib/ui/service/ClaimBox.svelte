<!-- A claim: its parts with where they came from, and what the supplier answered of each. -->
<script lang="ts">
  import type { ClaimPart, ClaimRecord } from '../../core/service/claim.ts';
  import { untrack } from 'svelte';
  import { sayDay, sayDistance } from '../../core/calendar/say-day.ts';
  import { count, dayOfInstant } from '../parts/say.ts';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    claim: ClaimRecord;
    today: string;
    mayServe: boolean;
    onchange: (body: object) => Promise<void>;
  }
  let { claim, today, mayServe, onchange }: Props = $props();
  let reference = $state(untrack(() => claim.reference));
  let replacedBy = $state<Record<string, string>>({});
  const since = $derived(dayOfInstant(claim.sentAt ?? claim.openedAt));

  function sayTerms({ goodwill, warrantyUntil }: ClaimPart): string {
    if (goodwill) return 'claimed as goodwill';
    return warrantyUntil ? `warranty until ${sayDay(warrantyUntil)}` : '';
  }
  const answer = (claimed: ClaimPart, outcome: string): Promise<void> =>
    onchange({
      ...(reference.trim() ? { reference: reference.trim() } : {}),
      parts: [
        {
          product: claimed.product,
          serial: claimed.serial,
          outcome,
          ...(outcome === 'replaced' && replacedBy[claimed.serial]?.trim()
            ? { replacedBy: replacedBy[claimed.serial]!.trim() }
            : {})
        }
      ]
    });
</script>

<section aria-label="Claim {claim.number}" class:open={claim.state !== 'answered'}>
  <div class="head">
    <h2><span class="number">{claim.number}</span> · {claim.name}</h2>
    <span class="soft"
      >{claim.state}, {sayDistance(since, today)} · {count(claim.parts.length, 'part')}</span
    >
    {#if mayServe && claim.state !== 'answered'}<label class="stack"
        >their number<input class="field number" bind:value={reference} maxlength="100" /></label
      >{:else if claim.reference}<span>theirs: <span class="number">{claim.reference}</span></span
      >{/if}
    <a
      class="act"
      href="/api/v1/claims/{encodeURIComponent(claim.number)}/letter"
      target="_blank"
      rel="noopener">Letter and packing list</a
    >
    {#if mayServe && claim.state === 'collected'}<button
        class="act main"
        onclick={() => onchange({ sent: true, reference: reference.trim() })}>It is sent</button
      >{/if}
  </div>
  <WideTable of="parts of the claim">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Part</th><th scope="col">Came by</th><th scope="col">Why</th><th
            scope="col">Answer</th
          ></tr
        ></thead
      >
      <tbody>
        {#each claim.parts as claimed (claimed.mark)}<tr>
            <td
              ><a class="number" href="/marks/{claimed.mark}">{claimed.serial}</a>
              <span class="soft">{claimed.product}</span></td
            >
            <td
              ><span class="number">{claimed.document}</span>{#if claimed.received}, {sayDay(
                  claimed.received
                )}{/if}<br /><span class="soft small">{sayTerms(claimed)}</span></td
            >
            <td class="why"
              >{claimed.reason}{#if claimed.job}<br /><a
                  class="small"
                  href="/service/{encodeURIComponent(claimed.job)}">{claimed.job}</a
                >{/if}</td
            >
            <td
              >{#if claimed.outcome}<b>{claimed.outcome}</b>
                {claimed.replacedBy ?? ''}
                {claimed.note}{:else if claim.state === 'sent' && mayServe}<span class="answers"
                  ><button class="act" onclick={() => answer(claimed, 'credited')}>Credited</button>
                  <button class="act" onclick={() => answer(claimed, 'replaced')}>Replaced</button>
                  <input
                    class="field number"
                    placeholder="by serial"
                    aria-label="Serial in the place of {claimed.serial}"
                    bind:value={replacedBy[claimed.serial]}
                  />
                  <button class="act" onclick={() => answer(claimed, 'refused')}>Refused</button
                  ></span
                >{:else}<span class="soft">open</span>{/if}</td
            >
          </tr>{/each}
      </tbody>
    </table>
  </WideTable>
</section>

<style>
  section {
    border: 1px solid var(--line);
    padding: 12px 16px;
    display: grid;
    gap: 8px;
  }
  .open {
    border-left: 3px solid var(--brass);
  }
  .head {
    display: flex;
    gap: 8px 18px;
    align-items: end;
    flex-wrap: wrap;
  }
  h2 {
    margin-right: auto;
  }
  .answers {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
  }
  .answers .field {
    width: 110px;
  }
  .why {
    max-width: 300px;
    overflow-wrap: anywhere;
  }
</style>
