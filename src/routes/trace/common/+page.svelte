<!-- Units in trouble, and what they share upstream. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { page } from '$app/state';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import AndMore from '$lib/ui/parts/AndMore.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  interface Unit {
    id: number;
    kind: 'lot' | 'serial' | 'bulk';
    number: string | null;
    product: string;
    state: 'usable' | 'held' | 'rejected';
  }
  interface Answer {
    troubled: number;
    population: number;
    looked: number;
    standsOut: number;
    sources: {
      key: string;
      kind: string;
      says: string;
      troubled: number;
      population: number;
      coverage: number;
      background: number;
      chance: number;
      corrected: number;
      standsOut: boolean;
      mark: (Unit & { name: string }) | null;
    }[];
  }
  // Units may stand in the address: whoever sends it sends the question too.
  let text = $state(page.url.searchParams.get('units') ?? '');
  let units = $state.raw<Unit[]>([]);
  let population = $state<'product' | 'shipped'>('product');
  let said = $state('');
  let refused = $state.raw<string[]>([]);
  let answer = $state.raw<Answer | null>(null);
  let busy = $state(false);
  const percent = (part: number) => `${Math.round(part * 1000) / 10} %`;
  /** `1 in 4 700`: what people can weigh. */
  const odds = (chance: number) =>
    chance >= 0.5
      ? 'as likely as not'
      : chance <= 0
        ? 'never by chance'
        : `1 in ${sayQuantity(String(Math.round(1 / chance) >= 1e12 ? '1000000000000' : Math.round(1 / chance)))}${1 / chance >= 1e12 ? ' or less' : ''}`;

  onMount(() => {
    if (text.trim()) void ask();
  });
  async function ask(): Promise<void> {
    busy = true;
    said = '';
    answer = null;
    const numbers = text
      .split(/[\s,;]+/)
      .map((one) => one.trim())
      .filter(Boolean);
    const found = await send<{ marks: Unit[]; open: { number: string }[]; unknown: string[] }>(
      'POST',
      '/api/v1/trace-roots',
      { by: 'numbers', numbers: numbers.length > 0 ? numbers : [' '] }
    );
    if (!found.ok) {
      busy = false;
      refused = messagesOf(found.refusal);
      return;
    }
    units = found.body.marks;
    said = [
      ...(found.body.unknown.length > 0 ? [`Not found: ${found.body.unknown.join(', ')}.`] : []),
      ...(found.body.open.length > 0
        ? [
            `${found.body.open.map((one) => one.number).join(', ')} stand for several products and are left out.`
          ]
        : [])
    ].join(' ');
    const reply = await send<Answer>('POST', '/api/v1/common-sources', {
      units: units.map((one) => one.id).length > 0 ? units.map((one) => one.id) : [1],
      population
    });
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    answer = reply.ok ? reply.body : null;
  }
</script>

<svelte:head><title>Common source · Trace · Earmark</title></svelte:head>
<div class="screen">
  <h1>Units in trouble: what do they share?</h1>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void ask();
    }}
  >
    <label class="stack"
      >serials or lots that were complained about, one or a pasted column<textarea
        class="field number"
        rows="3"
        bind:value={text}></textarea></label
    >
    <div class="go">
      <label class="stack"
        >compared with<select class="field" bind:value={population}
          ><option value="product">all units of the same product</option><option value="shipped"
            >those of them that were shipped</option
          ></select
        ></label
      ><button class="act main" disabled={busy || !text.trim()}>Look for what they share</button>
    </div>
  </form>
  {#if said}<p class="mind" role="status">{said}</p>{/if}
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if answer}
    <section aria-label="Answer">
      <h2>
        {count(answer.troubled, 'unit')} in trouble of {sayQuantity(String(answer.population))}; {count(
          answer.looked,
          'thing'
        )} two or more of them share
      </h2>
      <p class="verdict" class:none={answer.standsOut === 0}>
        {answer.standsOut === 0
          ? 'Nothing stands out: whatever they share, so many others have it too that it may be chance.'
          : `${answer.standsOut === 1 ? 'One thing stands' : `${answer.standsOut} things stand`} out. What shares the same units cannot be told apart by them.`}
      </p>
      <WideTable of="what they have in common">
        <table class="plain middle">
          <thead
            ><tr
              ><th scope="col">Shared</th><th scope="col">What</th><th scope="col" class="right"
                >Of the troubled</th
              ><th scope="col" class="right">Of all others</th><th scope="col" class="right"
                >By chance</th
              ><th scope="col" class="right">Corrected for {answer.looked}</th><th scope="col"
                ><span class="visually-hidden">Next</span></th
              ></tr
            ></thead
          >
          <tbody
            >{#each answer.sources.slice(0, 40) as source (source.key)}
              <tr class:out={source.standsOut}>
                <td
                  >{#if source.mark}<Tag
                      kind={source.mark.kind}
                      number={source.mark.number}
                      under="{source.mark.product} {source.mark.name}"
                      state={source.mark.state}
                      href="/marks/{source.mark.id}"
                    />{:else}<b>{source.kind === 'day' ? sayDay(source.says) : source.says}</b
                    >{/if}</td
                >
                <td class="small"
                  >{source.kind === 'mark'
                    ? (source.mark?.kind ?? '')
                    : source.kind === 'person'
                      ? 'booked by'
                      : source.kind === 'day'
                        ? 'made on'
                        : source.kind === 'place'
                          ? 'made at'
                          : source.kind}</td
                >
                <td class="right number"
                  >{source.troubled} of {answer.troubled}<br /><span class="small soft"
                    >{percent(source.coverage)}</span
                  ></td
                ><td class="right number"
                  >{sayQuantity(String(source.population - source.troubled))}<br /><span
                    class="small soft">{percent(source.background)}</span
                  ></td
                >
                <td class="right small">{odds(source.chance)}</td><td class="right small"
                  ><b class:stop={source.standsOut}>{odds(source.corrected)}</b></td
                >
                <td
                  >{#if source.mark && source.standsOut}<a
                      class="act quiet"
                      href="/trace/{source.mark.id}?direction=downstream">Trace it</a
                    >{/if}</td
                ></tr
              >
            {/each}</tbody
          >
        </table>
      </WideTable>
      <AndMore shown={40} total={answer.sources.length} />
      <p class="small soft">
        By chance: how likely it is that so many of the troubled have it, were they drawn blindly
        from all (hypergeometric). Corrected for the number of things looked at (Holm). Below 1 in
        100 it stands out.
      </p>
    </section>
  {/if}
</div>

<style>
  .screen {
    padding: 22px 26px;
    display: grid;
    gap: 14px;
    align-content: start;
    background: var(--paper);
    min-height: 100%;
  }
  form {
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 14px 16px;
    display: grid;
    gap: 12px;
    max-width: 900px;
  }
  textarea.field {
    height: auto;
    padding-top: 8px;
    field-sizing: content;
    max-height: 240px;
  }
  .go {
    display: flex;
    gap: 14px;
    align-items: end;
    flex-wrap: wrap;
  }
  .verdict {
    background: var(--rust-pale);
    border-left: 4px solid var(--rust);
    padding: 10px 14px;
    font-weight: 600;
    margin: 8px 0;
  }
  .verdict.none {
    background: var(--slate-pale);
    border-left-color: var(--slate);
  }
  table {
    background: var(--panel);
  }
  .out {
    background: var(--brass-pale);
  }
</style>
