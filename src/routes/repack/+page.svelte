<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import { inTurn } from '$lib/core/in-turn.ts';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { hasSerials } from '$lib/core/catalogue/plan.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import BookedPanel from '$lib/ui/bench/BookedPanel.svelte';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import type { Booked, Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import { packBalance } from '$lib/ui/bench/repack-balance.ts';
  import { keys } from '$lib/ui/frame/keys.svelte.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { latest } from '$lib/ui/frame/latest.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  type Source = (typeof data.sources)[number];
  interface Result {
    product: string;
    quantity: string;
    number: string;
    unitCost: string;
  }
  interface Step {
    sources: { from: Source; quantity: string; unitCost: string }[];
    results: Result[];
  }
  const blank = (): Result => ({ product: '', quantity: '', number: '', unitCost: '' });
  const begin = (from: Source): Step => ({
    sources: [{ from, quantity: from.quantity, unitCost: from.unitCost ?? '' }],
    results: [blank()]
  });
  let steps = $state.raw<Step[]>(untrack(() => data.sources.map(begin)));
  let place = $state(untrack(() => data.sources[0]?.place ?? ''));
  let document = $state(untrack(() => `RP-${data.today.slice(2).replaceAll('-', '')}`));
  let reason = $state('');
  let scanText = $state('');
  let said = $state('');
  let faults = $state.raw<readonly Fault[]>([]);
  const going = new GoingOn();
  /** What has expired has its own field below. */
  const softened = $derived(faults.filter((fault) => fault.code !== 'mark.expired'));
  let refused = $state.raw<string[]>([]);
  let booked = $state.raw<Booked | null>(null);
  const unsaved = askUnlessKept(() => [steps, reason], true);
  let busy = $state(false);
  /** A scan adds a step of its own, or a part to the kit of the last one. */
  let toKit = $state(false);
  let key = newKey();
  const product = (code: string) =>
    data.products.find((one) => one.code.toUpperCase() === code.trim().toUpperCase());
  const weightOf = (code: string) => product(code)?.netWeightKg ?? null;
  const balances = $derived(
    steps.map((step) =>
      packBalance(
        step.sources.map((one) => ({
          product: one.from.product,
          quantity: one.quantity,
          unitCost: one.unitCost
        })),
        step.results,
        weightOf
      )
    )
  );
  const expired = $derived(
    steps.some((step) =>
      step.sources.some((one) => one.from.expires !== null && one.from.expires < data.today)
    )
  );
  const request = $derived({
    document,
    place,
    ...(reason.trim() ? { reason } : {}),
    groups: steps.map((step) => ({
      sources: step.sources.map(({ from, quantity, unitCost }) => ({
        product: from.product,
        quantity,
        place: from.place,
        ...(from.kind === 'serial'
          ? { serial: from.number }
          : from.kind === 'lot'
            ? { lot: from.number }
            : {}),
        ...(unitCost.trim() ? { unitCost } : {})
      })),
      results: step.results
        .filter((one) => one.product.trim())
        .map((one) => ({
          product: one.product.trim(),
          quantity: one.quantity,
          ...(one.number.trim()
            ? {
                [hasSerials(product(one.product)?.marking ?? 'lot') ? 'serial' : 'lot']:
                  one.number.trim()
              }
            : {}),
          ...(one.unitCost.trim() ? { unitCost: one.unitCost } : {})
        }))
    }))
  });
  const ready = $derived(
    steps.length > 0 &&
      steps.every((step) => step.results.some((one) => one.product.trim() && one.quantity.trim()))
  );

  let judging: ReturnType<typeof setTimeout> | undefined;
  function put(next: Step[]): void {
    steps = next;
    refused = [];
    judgeSoon();
  }
  const asking = latest();
  function judgeSoon(): void {
    clearTimeout(judging);
    const isLatest = asking();
    judging = setTimeout(async () => {
      if (!ready) {
        faults = [];
        return;
      }
      const reply = await send<{ faults: Fault[] }>('POST', '/api/v1/checks/repacks', request);
      if (reply.ok && isLatest()) faults = reply.body.faults;
    }, 250);
  }
  const set = (at: number, change: Partial<Step>): void =>
    put(steps.with(at, { ...steps[at]!, ...change }));
  const setSource = (at: number, index: number, change: Partial<Step['sources'][number]>): void =>
    set(at, {
      sources: steps[at]!.sources.with(index, { ...steps[at]!.sources[index]!, ...change })
    });
  const setResult = (at: number, index: number, change: Partial<Result>): void =>
    set(at, {
      results: steps[at]!.results.with(index, { ...steps[at]!.results[index]!, ...change })
    });

  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  /** Finds what was scanned and takes it in as a step of its own, or as a part of the last. */
  async function take(text: string): Promise<void> {
    said = '';
    const reply = await send<{ marks: { id: number; number: string | null; onHand: string }[] }>(
      'GET',
      `/api/v1/marks?q=${encodeURIComponent(text.trim())}&limit=20`
    );
    if (!reply.ok) {
      said = messagesOf(reply.refusal).join(' ');
      return;
    }
    const found = reply.body.marks.filter(
      (mark) => mark.number?.toUpperCase() === text.trim().toUpperCase()
    );
    const mark = found.find((one) => one.onHand !== '0') ?? found[0];
    if (!mark) {
      said = `There is no lot or serial ${text}.`;
      return;
    }
    if (mark.onHand === '0') {
      said = `${mark.number} is not on hand.`;
      return;
    }
    if (steps.some((step) => step.sources.some((one) => one.from.id === mark.id))) {
      said = `${mark.number} is on the sheet already.`;
      return;
    }
    const ids = [...steps.flatMap((step) => step.sources.map((one) => one.from.id)), mark.id];
    await goto(`?marks=${ids.join(',')}`, { keepFocus: true, noScroll: true, replaceState: true });
    const from = data.sources.find((one) => one.id === mark.id);
    if (!from) {
      said = `${mark.number} is not on hand.`;
      return;
    }
    if (!place) place = from.place;
    const last = steps.at(-1);
    if (toKit && last)
      put(steps.with(-1, { ...last, sources: [...last.sources, begin(from).sources[0]!] }));
    else
      put([
        ...steps,
        {
          ...begin(from),
          results: last?.results.map((one) => ({ ...one, quantity: '', number: '' })) ?? [blank()]
        }
      ]);
    scanText = '';
  }

  async function book(): Promise<void> {
    if (!ready || busy) return;
    busy = true;
    const reply = await send<Booked>(
      'POST',
      '/api/v1/repacks',
      { ...request, ...going.given },
      {
        'idempotency-key': key
      }
    );
    busy = false;
    if (reply.ok) {
      booked = reply.body;
      unsaved.kept();
      key = newKey();
      return;
    }
    refused = reply.refusal.errors.length > 0 ? [] : [reply.refusal.title];
    faults = reply.refusal.errors as Fault[];
  }
  onMount(() => {
    if (data.mayRepack)
      scanTarget.current = {
        offer: (text) => (booked ? null : `Repack ${text}`),
        take: takeInTurn
      };
    keys.screen = [{ key: 'Ctrl+Enter', says: 'Book the repack', act: () => void turn(book) }];
    return () => {
      scanTarget.current = null;
      keys.screen = [];
      clearTimeout(judging);
    };
  });
  const atStep = (at: number): Fault[] =>
    faults.filter((fault) => fault.path.startsWith(`groups[${at}]`));
</script>

<svelte:head><title>Repack · Earmark</title></svelte:head>
{#if booked}
  <BookedPanel
    {booked}
    verb="Repacked on"
    next={{ href: '/on-hand', says: 'On hand' }}
    onagain={() => {
      booked = null;
      steps = [];
      void goto('/repack');
    }}
  />
{:else}
  <div class="screen">
    <div class="head">
      <h1>Repack</h1>
      <p class="soft">
        The same goods in other packs: the lot goes along, net weight is conserved to the gram and
        cost to the cent.
      </p>
    </div>
    {#if !data.mayRepack}<p class="refused">Your role reads this; it does not book it.</p>{/if}
    <form
      class="scan"
      onsubmit={(event) => {
        event.preventDefault();
        takeInTurn(scanText);
      }}
    >
      <label class="stack"
        >scan or type what is repacked<input
          class="field number"
          bind:value={scanText}
          autocomplete="off"
          spellcheck="false"
        /></label
      >
      <button class="act" disabled={scanText.trim() === ''}
        >{toKit && steps.length > 0 ? 'Add to the kit' : 'Add'}</button
      >
      {#if steps.length > 0}<label class="check"
          ><input type="checkbox" bind:checked={toKit} /> goes into the same kit as the last</label
        >{/if}
      <label class="stack"
        >document<input
          class="field number"
          bind:value={document}
          maxlength="60"
          oninput={judgeSoon}
        /></label
      >
      <label class="stack"
        >put at<PlaceChoice places={data.places} bind:value={place} onchange={judgeSoon} /></label
      >
    </form>
    {#if said}<p class="refused" role="alert">{said}</p>{/if}
    {#each [...refused, ...faults
        .filter((fault) => !fault.path.startsWith('groups['))
        .map((fault) => fault.message)] as message, index (index)}<p class="refused" role="alert">
        {message}
      </p>{/each}
    <GoOn document={request.document} faults={softened} {going} again={book} />
    {#if steps.length === 0}<p class="empty">
        Scan the lot that is opened. Several lots stay apart, each in a step of its own; the parts
        of a kit go into one.
      </p>{/if}
    {#each steps as step, at (at)}
      {@const balance = balances[at]!}
      <section class="step" aria-label="Step {at + 1}">
        <div class="side">
          <h2>Out of</h2>
          {#each step.sources as one, index (one.from.id)}
            <div class="from">
              <Tag
                kind={one.from.kind}
                number={one.from.number}
                under="{one.from.product} · {sayQuantity(one.from.quantity)} {one.from.unit} at {one
                  .from.place}"
                state={one.from.state as 'usable'}
                expired={one.from.expires && one.from.expires < data.today ? 'expired' : undefined}
                href="/marks/{one.from.id}"
              />
              <label class="stack"
                >{one.from.unit}<input
                  class="field number"
                  value={one.quantity}
                  inputmode="decimal"
                  disabled={one.from.kind === 'serial'}
                  oninput={(event) => setSource(at, index, { quantity: event.currentTarget.value })}
                  aria-label="Quantity of {one.from.number}"
                /></label
              >
              {#if data.seesCosts}<label class="stack"
                  >cost of one<input
                    class="field number"
                    value={one.unitCost}
                    inputmode="decimal"
                    placeholder="not known"
                    oninput={(event) =>
                      setSource(at, index, { unitCost: event.currentTarget.value })}
                    aria-label="Cost of one {one.from.number}"
                  /></label
                >{/if}
            </div>
            {#if one.from.expires}<p class="small soft">
                expires {sayDay(one.from.expires)}, {sayDistance(one.from.expires, data.today)}
              </p>{/if}
          {/each}
          <button class="act quiet" onclick={() => put(steps.toSpliced(at, 1))}
            >Take this step off</button
          >
        </div>
        <div class="side">
          <h2>Into</h2>
          {#each step.results as one, index (index)}
            {@const known = product(one.product)}
            <div class="into">
              <label class="stack"
                >product<input
                  class="field number"
                  list="products"
                  value={one.product}
                  oninput={(event) => setResult(at, index, { product: event.currentTarget.value })}
                  aria-label="Product of result {index + 1}"
                /></label
              >
              <label class="stack"
                >{known?.unit ?? 'quantity'}<input
                  class="field number"
                  value={one.quantity}
                  inputmode="decimal"
                  oninput={(event) => setResult(at, index, { quantity: event.currentTarget.value })}
                  aria-label="Quantity of result {index + 1}"
                /></label
              >
              {#if known?.marking !== 'none'}<label class="stack"
                  >{hasSerials(known?.marking ?? 'lot') ? 'serial' : 'lot'}<input
                    class="field number"
                    value={one.number}
                    placeholder={step.sources.length === 1 && !hasSerials(known?.marking ?? 'lot')
                      ? step.sources[0]!.from.kind === 'lot'
                        ? (step.sources[0]!.from.number ?? '')
                        : (step.sources[0]!.from.lot ?? '')
                      : ''}
                    oninput={(event) => setResult(at, index, { number: event.currentTarget.value })}
                    aria-label="Number of result {index + 1}"
                  /></label
                >{/if}
              {#if data.seesCosts}<label class="stack"
                  >cost of one<input
                    class="field number"
                    value={one.unitCost}
                    inputmode="decimal"
                    placeholder="by weight"
                    oninput={(event) =>
                      setResult(at, index, { unitCost: event.currentTarget.value })}
                    aria-label="Cost of one of result {index + 1}"
                  /></label
                >{/if}
              {#if step.results.length > 1}<button
                  class="act quiet"
                  aria-label="Remove result {index + 1}"
                  onclick={() => set(at, { results: step.results.toSpliced(index, 1) })}>✕</button
                >{/if}
            </div>
          {/each}
          <button class="act" onclick={() => set(at, { results: [...step.results, blank()] })}
            >Another pack size</button
          >
        </div>
        <p
          class="balance"
          class:good={balance.off === '0' && balance.out !== '0'}
          class:open={balance.off !== '0'}
          role="status"
        >
          <b class="number">{sayQuantity(balance.in)} kg</b> in,
          <b class="number">{sayQuantity(balance.out)} kg</b>
          out{#if balance.off === '0' && balance.out !== '0'}&nbsp;✓ balances{:else if balance.out !== '0'}:
            <b class="number">{sayQuantity(balance.off.replace('-', ''))} kg</b>
            {balance.off.startsWith('-')
              ? 'too many'
              : 'still to pack'}{/if}{#if balance.costIn !== null}<span>
              · cost {balance.costIn} in{balance.costOut !== null
                ? `, ${balance.costOut} out${balance.costIn === balance.costOut ? ' ✓' : ''}`
                : ', shared by weight'}</span
            >{/if}{#if balance.unweighed.length > 0}<span class="stop">
              · no net weight: {balance.unweighed.join(', ')}</span
            >{/if}
        </p>
        {#each atStep(at) as fault, index (index)}<p class="stop small" role="alert">
            {fault.message}
          </p>{/each}
      </section>
    {/each}
    <datalist id="products"
      >{#each data.products as one (one.code)}<option value={one.code}
          >{one.name}{one.netWeightKg ? `, ${one.netWeightKg} kg` : ', no net weight'}</option
        >{/each}</datalist
    >
    {#if expired}<label class="stack mind"
        >Something here is expired. Why it is repacked, kept for ever<input
          class="field"
          bind:value={reason}
          maxlength="2000"
          oninput={judgeSoon}
        /></label
      >{/if}
    <div class="end">
      <span class="soft"
        >{count(steps.length, 'step')}{faults.length > 0
          ? ` · ${count(faults.length, 'fault')}`
          : ''}</span
      ><button
        class="act main"
        disabled={!ready || busy || !data.mayRepack}
        onclick={() => turn(book)}
        >{busy ? 'Booking …' : `Book ${count(steps.length, 'repack')}`}</button
      >
    </div>
  </div>
{/if}

<style>
  .screen {
    padding: 16px 24px 28px;
    display: grid;
    gap: 14px;
    align-content: start;
    max-width: 1180px;
  }
  .head {
    display: flex;
    gap: 18px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .scan {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 14px;
    align-items: end;
  }
  .scan label:first-child {
    flex: 1 1 260px;
  }
  .check {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 40px;
    font-size: 14px;
  }
  .step {
    border: 1px solid var(--line);
    background: var(--paper);
    padding: 12px 16px;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
    gap: 10px 28px;
  }
  .side {
    display: grid;
    gap: 8px;
    align-content: start;
    justify-items: start;
  }
  .from {
    display: grid;
    grid-template-columns: minmax(180px, 1fr) 100px 110px;
    gap: 10px;
    align-items: end;
  }
  .into {
    display: grid;
    grid-template-columns: minmax(120px, 1.4fr) 90px minmax(110px, 1fr) 100px auto;
    gap: 10px;
    align-items: end;
  }
  .from .field,
  .into .field {
    width: 100%;
    min-width: 0;
  }
  .balance {
    grid-column: 1 / -1;
    padding: 8px 12px;
    background: var(--panel);
    border-left: 3px solid var(--line-strong);
  }
  .balance.good {
    background: var(--sea-pale);
    border-color: var(--sea);
    color: var(--sea);
  }
  .balance.open {
    background: var(--amber);
    border-color: #b98512;
  }
  .step > .stop {
    grid-column: 1 / -1;
  }
  .end {
    display: flex;
    gap: 18px;
    align-items: center;
    justify-content: flex-end;
  }
  .empty {
    color: var(--ink-soft);
    padding: 24px 0;
  }
  @media (max-width: 900px) {
    .step {
      grid-template-columns: minmax(0, 1fr);
    }
    .from,
    .into {
      grid-template-columns: 1fr 1fr;
    }
    .screen {
      padding: 12px;
    }
  }
</style>
