<!-- Puts right what is wrong on a mark: number, dates, the supplier's number, facts. What was computed from a date is listed and follows where wished. -->
<script lang="ts">
  import DateField from '../parts/DateField.svelte';
  import { untrack } from 'svelte';
  import { Modal, TextArea } from 'carbon-components-svelte';
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { newKey } from '../frame/new-key.ts';

  interface Mark {
    id: number;
    kind: 'lot' | 'serial' | 'bulk';
    number: string | null;
    product: string;
    supplierNumber: string | null;
    madeOn: string | null;
    ownExpires: string | null;
    retest: string | null;
    facts: Readonly<Record<string, { value: string; unit?: string }>>;
    factNames: readonly string[];
  }
  interface FollowUp {
    id: number;
    product: string;
    kind: 'lot' | 'serial' | 'bulk';
    number: string;
    lot: string | null;
    from: string | null;
    to: string | null;
    why: string;
  }
  let {
    mark,
    today,
    onclose,
    ondone
  }: { mark: Mark; today: string; onclose: () => void; ondone: () => void } = $props();

  const was = untrack(() => ({
    number: mark.number ?? '',
    made: mark.madeOn ?? '',
    expires: mark.ownExpires ?? '',
    retest: mark.retest ?? '',
    supplierNumber: mark.supplierNumber ?? ''
  }));
  const names = untrack(() => [...new Set([...mark.factNames, ...Object.keys(mark.facts)])]);
  let now = $state({ ...was });
  let facts = $state<Record<string, string>>(
    Object.fromEntries(names.map((name) => [name, untrack(() => mark.facts[name]?.value ?? '')]))
  );
  let reason = $state('');
  let refused = $state.raw<string[]>([]);
  let followUps = $state.raw<FollowUp[]>([]);
  let following = $state.raw(new Set<number>());
  let busy = $state(false);
  const key = newKey();
  const document = untrack(() => `AM-${today.slice(2).replaceAll('-', '')}-${mark.id}`);

  const DATES = ['made', 'expires', 'retest'] as const;
  const to = $derived({
    ...(now.number.trim() !== was.number ? { number: now.number.trim() } : {}),
    ...Object.fromEntries(
      DATES.filter((date) => now[date] !== was[date]).map((date) => [date, now[date] || null])
    ),
    ...(now.supplierNumber.trim() !== was.supplierNumber
      ? { supplierNumber: now.supplierNumber.trim() || null }
      : {}),
    ...(names.some((name) => facts[name]!.trim() !== (mark.facts[name]?.value ?? ''))
      ? {
          facts: Object.fromEntries(
            names
              .filter((name) => facts[name]!.trim() !== (mark.facts[name]?.value ?? ''))
              .map((name) => [name, facts[name]!.trim() || null])
          )
        }
      : {})
  } as Record<string, unknown>);
  const changes = $derived(Object.keys(to).length);

  /** Asks what was computed from the dates as they were. */
  async function look(): Promise<void> {
    const query = (['made', 'expires'] as const)
      .filter((date) => date in to && /^(\d{4}-\d\d-\d\d)?$/.test(now[date]))
      .map((date) => `${date}=${now[date]}`)
      .join('&');
    if (query === '') {
      followUps = [];
      return;
    }
    const reply = await send<{ followUps: FollowUp[] }>(
      'GET',
      `/api/v1/marks/${mark.id}/follow-ups?${query}`
    );
    if (!reply.ok) return;
    followUps = reply.body.followUps;
    following = new Set(followUps.map((one) => one.id));
  }

  const named = (kind: string, number: string, lot: string | null = null) =>
    kind === 'serial' ? { serial: number, ...(lot ? { lot } : {}) } : { lot: number };

  async function book(): Promise<void> {
    busy = true;
    const own = followUps.find((one) => one.id === mark.id && following.has(one.id));
    const lines = [
      {
        product: mark.product,
        ...named(mark.kind, was.number),
        to: { ...to, ...(own && !('expires' in to) ? { expires: own.to } : {}) }
      },
      ...followUps
        .filter((one) => one.id !== mark.id && following.has(one.id))
        .map((one) => ({
          product: one.product,
          ...named(one.kind, one.number),
          to: { expires: one.to }
        }))
    ];
    const reply = await send(
      'POST',
      '/api/v1/amendments',
      { document, reason, lines },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    ondone();
  }
  const toggle = (id: number): void => {
    const next = new Set(following);
    if (!next.delete(id)) next.add(id);
    following = next;
  };
</script>

<Modal
  open
  size="sm"
  modalLabel="Amend {mark.number}"
  primaryButtonText={changes === 0 ? 'Amend' : `Amend ${mark.number}`}
  secondaryButtonText="Leave it"
  primaryButtonDisabled={changes === 0 || reason.trim() === '' || busy}
  on:submit={book}
  on:click:button--secondary={onclose}
  on:close={onclose}
  selectorPrimaryFocus="#amend-number"
>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <p class="small soft">The old value stays in the ledger and still finds it.</p>
  <div class="fields">
    <label class="stack"
      >{mark.kind}<input
        id="amend-number"
        class="field number"
        bind:value={now.number}
        maxlength="60"
        autocomplete="off"
      /></label
    >
    <label class="stack"
      >their number<input
        class="field number"
        bind:value={now.supplierNumber}
        maxlength="100"
        autocomplete="off"
      /></label
    >
    <DateField label="expires" monthEnds bind:value={now.expires} onday={look} />
    <DateField label="made on" bind:value={now.made} onday={look} />
    <DateField label="retest on" monthEnds bind:value={now.retest} />
    {#each names as name (name)}<label class="stack"
        >{name}{mark.facts[name]?.unit ? `, ${mark.facts[name]!.unit}` : ''}<input
          class="field"
          bind:value={facts[name]}
          maxlength="200"
          autocomplete="off"
        /></label
      >{/each}
  </div>
  {#if followUps.length > 0}
    <fieldset class="follow">
      <legend>Computed from that date</legend>
      <ul>
        {#each followUps.slice(0, 200) as one (one.id)}<li>
            <label
              ><input
                type="checkbox"
                checked={following.has(one.id)}
                onchange={() => toggle(one.id)}
              /> <span class="number">{one.number}</span>
              <span class="small soft">{one.product}</span><span class="dates small"
                >{one.from ? sayDay(one.from) : 'none'} →
                <b>{one.to ? sayDay(one.to) : 'none'}</b></span
              ></label
            >
          </li>{/each}
      </ul>
      <p class="small soft">What is ticked is amended along, in the same booking.</p>
    </fieldset>
  {/if}
  <TextArea labelText="Reason, kept for ever" bind:value={reason} maxlength={2000} rows={2} />
</Modal>

<style>
  .fields {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px 16px;
    margin: 12px 0;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
    margin-bottom: 10px;
  }
  .follow {
    border: 1px solid var(--line);
    background: var(--amber);
    padding: 8px 12px;
    margin-bottom: 12px;
  }
  .follow ul {
    max-height: 150px;
    overflow: auto;
  }
  .follow label {
    display: flex;
    gap: 8px;
    align-items: baseline;
    padding: 2px 0;
  }
  .dates {
    margin-left: auto;
  }
</style>
