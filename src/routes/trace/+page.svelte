<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { goto } from '$app/navigation';
  import { readTypedDay } from '$lib/core/calendar/read-typed-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const WAYS = [
    ['numbers', 'Numbers'],
    ['document', 'A document'],
    ['partner', 'A partner and a time'],
    ['place', 'A place or station and a time'],
    ['product', 'A product and a range']
  ] as const;
  type Way = (typeof WAYS)[number][0];
  let way = $state<Way>('numbers');
  let given = $state<Record<string, string>>({});
  let direction = $state<'downstream' | 'upstream'>('downstream');
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  interface Found {
    title: string;
    count: number;
    first: number | null;
    set: number | null;
    marks: {
      id: number;
      kind: 'lot' | 'serial' | 'bulk';
      number: string | null;
      product: string;
      state: 'usable' | 'held' | 'rejected';
      onHand: string;
      unit: string;
    }[];
    open: { number: string; choices: { product: string; kind: string; id: number }[] }[];
    unknown: string[];
    amended: { number: string; now: string; product: string }[];
  }
  let found = $state.raw<Found | null>(null);
  const set =
    (key: string) =>
    (
      event: Event & { currentTarget: HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement }
    ) => {
      given = { ...given, [key]: event.currentTarget.value };
    };
  /** One of what was given, as a field reads and sets it. */
  const told = (key: string) => ({
    is: () => given[key] ?? '',
    set: (to: string) => {
      given = { ...given, [key]: to };
    }
  });
  const part = (key: string) => (given[key]?.trim() ? { [key]: given[key]!.trim() } : {});
  /**
   * A day as people write it, with a time of day here where one is given; as it stands where it
   * cannot be read, which the answer then says.
   */
  const moment = (key: string) => {
    const text = given[key]?.trim() ?? '';
    if (text === '') return {};
    const [, day = text, time] = /^(.*?)[ T]+(\d{1,2}:\d{2})$/.exec(text) ?? [];
    const read = readTypedDay(day, { today: data.today }) ?? day;
    const at = time === undefined ? null : new Date(`${read}T${time.padStart(5, '0')}:00`);
    return { [key]: at && !Number.isNaN(at.getTime()) ? at.toISOString() : read };
  };

  let records = $state({ from: '', to: '', number: '' });
  const recordsQuery = $derived(
    ['from', 'to', 'number']
      .flatMap((key) => {
        const value = records[key as keyof typeof records].trim();
        return value ? [`&${key}=${encodeURIComponent(value)}`] : [];
      })
      .join('')
  );

  let file = $state.raw<File | null>(null);
  let foreignSaid = $state('');
  let foreignRefused = $state.raw<string[]>([]);
  /** Takes in another firm's events: traces go on through them. */
  async function capture(): Promise<void> {
    foreignSaid = '';
    let value: unknown;
    try {
      value = JSON.parse(await file!.text());
    } catch {
      foreignRefused = [`${file!.name} is no JSON. Ask for EPCIS 2.0 as JSON.`];
      return;
    }
    const reply = await send<{ events: number; fresh: number; known: number; foreign: string[] }>(
      'POST',
      '/api/v1/epcis/capture',
      value
    );
    foreignRefused = reply.ok
      ? []
      : reply.refusal.errors
          .slice(0, 12)
          .map((one) => `${one.path ? `${one.path}: ` : ''}${one.message}`);
    if (!reply.ok && foreignRefused.length === 0) foreignRefused = messagesOf(reply.refusal);
    if (reply.ok)
      foreignSaid = `✓ ${count(reply.body.fresh, 'event')} taken in${reply.body.known > 0 ? `, ${reply.body.known} were known` : ''}${reply.body.foreign.length > 0 ? `; ${count(reply.body.foreign.length, 'identifier is', 'identifiers are')} of no product of ours` : ''}.`;
  }

  /** What came in on a paper is traced from there on, and not what lay in those lots before. */
  let fromPaper = $state('');
  const startsAt = $derived(fromPaper && `&from=${encodeURIComponent(fromPaper)}`);

  async function find(product?: string): Promise<void> {
    busy = true;
    const body =
      way === 'numbers'
        ? {
            by: way,
            numbers: (given.numbers ?? '')
              .split(/[\r\n\t,;]+/)
              .map((one) => one.trim())
              .filter(Boolean),
            ...(product ? { product } : {})
          }
        : way === 'document'
          ? { by: way, document: given.document?.trim() ?? '' }
          : way === 'partner'
            ? {
                by: way,
                partner: given.partner?.trim() ?? '',
                ...moment('from'),
                ...moment('to')
              }
            : way === 'place'
              ? {
                  by: way,
                  place: given.place ?? data.spots[0]?.code ?? '',
                  ...moment('from'),
                  ...moment('to')
                }
              : {
                  by: way,
                  product: given.product?.trim() ?? '',
                  ...part('first'),
                  ...part('last'),
                  ...moment('madeFrom'),
                  ...moment('madeTo')
                };
    const reply = await send<Found>('POST', '/api/v1/trace-roots', body);
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    found = reply.ok ? reply.body : null;
    fromPaper = reply.ok && way === 'document' ? (given.document?.trim() ?? '') : '';
    // One that means one thing needs no look at the list.
    if (
      reply.ok &&
      reply.body.count === 1 &&
      reply.body.open.length + reply.body.unknown.length + reply.body.amended.length === 0
    )
      await trace();
  }
  const trace = () =>
    goto(
      `/trace/${found!.set === null ? found!.first : `s${found!.set}`}?direction=${direction}${startsAt}`
    );
</script>

<svelte:head><title>Trace · Earmark</title></svelte:head>
<div class="screen">
  <h1>Where did this come from, and where did it all go?</h1>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void find();
    }}
  >
    <div class="way" role="tablist" aria-label="Begin with">
      {#each WAYS as [key, says] (key)}<button
          type="button"
          role="tab"
          aria-selected={way === key}
          onclick={() => {
            way = key;
            found = null;
            refused = [];
          }}>{says}</button
        >{/each}
    </div>
    <div class="fields">
      {#if way === 'numbers'}<label class="stack wide"
          >lots, serials, suppliers’ numbers, or numbers of before an amendment; one or a pasted
          column<textarea
            class="field number"
            rows="2"
            value={given.numbers ?? ''}
            oninput={set('numbers')}></textarea></label
        >
      {:else if way === 'document'}<label class="stack wide"
          >order, delivery note or any paper something was booked under<input
            class="field number"
            value={given.document ?? ''}
            oninput={set('document')}
            maxlength="100"
          /></label
        >
      {:else if way === 'partner'}<CodeField
          label="partner"
          of="partner"
          bind:value={told('partner').is, told('partner').set}
        />
      {:else if way === 'place'}<label class="stack"
          >place or station<PlaceChoice
            places={data.spots}
            value={given.place ?? data.spots[0]?.code ?? ''}
            onchange={(code) => told('place').set(code)}
          /></label
        >
      {:else}<CodeField
          label="product"
          of="product"
          bind:value={told('product').is, told('product').set}
        />
        <label class="stack"
          >from number<input
            class="field number"
            value={given.first ?? ''}
            oninput={set('first')}
          /></label
        ><label class="stack"
          >to number<input
            class="field number"
            value={given.last ?? ''}
            oninput={set('last')}
          /></label
        >
        <DateField
          label="made or received from"
          bind:value={told('madeFrom').is, told('madeFrom').set}
        /><DateField label="to" bind:value={told('madeTo').is, told('madeTo').set} />{/if}
      {#if way === 'partner'}<DateField
          label="from"
          bind:value={told('from').is, told('from').set}
        /><DateField label="to" bind:value={told('to').is, told('to').set} />{/if}
      {#if way === 'place'}<label class="stack"
          >from<input
            class="field number when"
            placeholder="31 dec 26 14:30"
            value={given.from ?? ''}
            oninput={set('from')}
          /></label
        ><label class="stack"
          >to<input
            class="field number when"
            placeholder="31 dec 26 14:30"
            value={given.to ?? ''}
            oninput={set('to')}
          /></label
        >{/if}
    </div>
    <div class="go">
      <span class="ways" role="radiogroup" aria-label="Which way"
        ><button
          type="button"
          role="radio"
          aria-checked={direction === 'upstream'}
          onclick={() => (direction = 'upstream')}>◂ Where from</button
        ><button
          type="button"
          role="radio"
          aria-checked={direction === 'downstream'}
          onclick={() => (direction = 'downstream')}>Where to ▸</button
        ></span
      ><button class="act main" disabled={busy}>Find</button><a
        class="act quiet"
        href="/trace/common">Units in trouble: what do they share?</a
      >
    </div>
  </form>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if found}
    <section class="found" aria-label="Found">
      {#if found.unknown.length > 0}<p class="mind said">
          Never existed here: <b class="number">{found.unknown.slice(0, 20).join(', ')}</b>{found
            .unknown.length > 20
            ? ` and ${found.unknown.length - 20} more`
            : ''}. Check the numbers.
        </p>{/if}
      {#each found.amended as one (one.number)}<p class="mind said">
          <b class="number">{one.number}</b> of {one.product} was amended and is
          <b class="number">{one.now}</b> now; it is taken as that.
        </p>{/each}
      {#each found.open as one (one.number)}<p class="mind said">
          Which <b class="number">{one.number}</b>? {#each one.choices as choice (choice.id)}<button
              class="act quiet"
              onclick={() => find(choice.product)}>the {choice.kind} of {choice.product}</button
            >{/each}
        </p>{/each}
      {#if found.count > 0 && found.open.length === 0}
        <div class="head">
          <h2>{found.title}: {count(found.count, 'lot or serial', 'lots and serials')}</h2>
          <button class="act main" onclick={trace}
            >Trace {found.count === 1 ? 'it' : `all ${sayQuantity(String(found.count))}`}
            {direction}</button
          >
        </div>
        <div class="tags">
          {#each found.marks.slice(0, 40) as mark (mark.id)}<Tag
              kind={mark.kind}
              number={mark.number}
              under="{mark.product} · {sayAmount(mark.onHand, mark.unit)} on hand"
              state={mark.state}
              href="/trace/{mark.id}?direction={direction}"
            />{/each}
        </div>
        {#if found.count > 40}<p class="small soft">
            and {sayQuantity(String(found.count - 40))} more
          </p>{/if}
      {/if}
    </section>
  {/if}
  {#if data.held.total > 0}
    <section>
      <h2>
        Held now <span class="small soft"
          >{data.held.total > data.held.rows.length
            ? `${data.held.rows.length} of ${data.held.total}`
            : ''}</span
        >
      </h2>
      <div class="tags" data-list>
        {#each data.held.rows as mark (mark.id)}<Tag
            kind={mark.kind}
            number={mark.number}
            under="{mark.product} · {sayQuantity(mark.onHand)} {mark.unit}"
            state="held"
            href="/trace/{mark.id}?direction=downstream"
          />{/each}
      </div>
    </section>
  {/if}
  <section>
    <h2>Latest of each product</h2>
    <div class="tags" data-list>
      {#each data.recent as mark (mark.id)}<Tag
          kind={mark.kind}
          number={mark.number}
          under="{mark.product} {mark.name}"
          state={mark.state}
          href="/trace/{mark.id}?direction={mark.kind === 'serial' ? 'upstream' : 'downstream'}"
        />
      {:else}<p class="soft">
          No mark has been booked yet. Receive goods, and they can be traced from that moment.
        </p>{/each}
    </div>
  </section>
  <section class="records">
    <h2>Records to hand out</h2>
    <p class="lists">
      {#each data.records as { kind, title } (kind)}<a href="/trace/records/{kind}">{title}</a
        >{/each}<a href="/proof">Check a proof file</a>
    </p>
    <div class="fields">
      <DateField label="from" bind:value={records.from} /><DateField
        label="to"
        bind:value={records.to}
      /><label class="stack"
        >only this lot or serial<input
          class="field number"
          bind:value={records.number}
          maxlength="60"
        /></label
      >
      <span class="links"
        ><a class="act" href="/api/v1/exports/record-sheet?format=xlsx{recordsQuery}"
          >Record sheet</a
        ><a class="act quiet" href="/api/v1/exports/record-sheet?format=csv{recordsQuery}">as CSV</a
        ><a class="act" href="/api/v1/exports/ledger?format=xlsx{recordsQuery}">Ledger</a><a
          class="act quiet"
          href="/api/v1/exports/ledger?format=csv{recordsQuery}">as CSV</a
        ><a class="act quiet" href="/api/v1/exports/ledger?as=epcis{recordsQuery}">as EPCIS 2.0</a
        ></span
      >
    </div>
    <form
      class="foreign"
      onsubmit={(event) => {
        event.preventDefault();
        void capture();
      }}
    >
      <label class="stack"
        >what another firm sent, EPCIS 2.0 JSON<input
          class="field"
          type="file"
          accept=".json,.jsonld,application/json,application/ld+json"
          onchange={(event) => (file = event.currentTarget.files?.[0] ?? null)}
        /></label
      ><button class="act" disabled={!file}>Take it in</button>
    </form>
    {#each foreignRefused as message, index (index)}<p class="refused" role="alert">
        {message}
      </p>{/each}{#if foreignSaid}<p class="good" role="status">{foreignSaid}</p>{/if}
    <p class="small soft">
      The record sheet has the key data elements of receiving, transformation and shipping, a row
      for each lot or serial of an event.
    </p>
  </section>
</div>

<style>
  .lists {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
  }
  .screen {
    padding: 22px 26px;
    display: grid;
    gap: 16px;
    align-content: start;
    background: var(--paper);
    min-height: 100%;
  }
  form {
    background: var(--panel);
    border: 1px solid var(--line);
    display: grid;
    gap: 12px;
    padding: 0 16px 14px;
  }
  .way {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
    margin: 0 -16px;
    padding: 0 8px;
    border-bottom: 1px solid var(--line);
  }
  .way button {
    border: 0;
    background: none;
    padding: 11px 12px;
    cursor: pointer;
    border-bottom: 3px solid transparent;
    color: var(--ink-soft);
  }
  .way [aria-selected='true'] {
    color: var(--ink);
    font-weight: 600;
    border-bottom-color: var(--brass);
  }
  .fields {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
  }
  .when {
    width: 180px;
  }
  .wide {
    flex: 1;
    min-width: 260px;
  }
  textarea.field {
    height: auto;
    padding-top: 8px;
    field-sizing: content;
    max-height: 220px;
  }
  .go {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: center;
  }
  .ways {
    display: inline-flex;
    border: 1px solid var(--line-strong);
  }
  .ways button {
    border: 0;
    background: var(--panel);
    padding: 0 14px;
    min-height: 38px;
    font-weight: 600;
    color: var(--ink-soft);
    cursor: pointer;
  }
  .ways [aria-checked='true'] {
    background: var(--ink);
    color: #fff;
  }
  .foreign {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: end;
    background: none;
    border: 0;
    padding: 0;
  }
  .foreign .field {
    padding-top: 8px;
  }
  .records {
    display: grid;
    gap: 8px;
  }
  .links {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
  }
  .tags {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
    gap: 10px;
    margin-top: 8px;
  }
  .said {
    margin-bottom: 6px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    align-items: center;
    flex-wrap: wrap;
  }
</style>
