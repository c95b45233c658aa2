<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { parseQuantity, quantity, totalOf } from '$lib/core/quantity/quantity.ts';
  import { send } from '$lib/ui/frame/api.ts';
  import type { Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import OrdersOf from '$lib/ui/orders/OrdersOf.svelte';
  import { sayWishes } from '$lib/ui/shipping/say-wishes.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const RULES = [
    ['first expired', 'First expired first'],
    ['first in', 'First in first'],
    ['fewest lots', 'Fewest lots']
  ] as const;
  /**
   * How much of each mark goes on each line, as typed; it begins with what the order was promised
   * already, otherwise with the proposal.
   */
  const promised = (): Record<string, string> => {
    const open = new Map(data.order.lines.map((line) => [line.line, quantity(line.left)]));
    return Object.fromEntries(
      data.proposal.choices.flatMap((choice) =>
        choice.promises
          .filter((promise) => promise.order === data.order.number)
          .flatMap((promise) => {
            const line = data.order.lines.find(
              (one) => one.product === choice.product && open.get(one.line)!.gt(0)
            );
            if (!line) return [];
            open.set(line.line, open.get(line.line)!.minus(promise.quantity));
            return [[`${line.line} ${choice.id}`, promise.quantity]];
          })
      )
    );
  };
  const proposed = (): Record<string, string> =>
    Object.fromEntries(
      data.proposal.lines.flatMap((line) =>
        line.picks.map((pick) => [`${line.line} ${pick.id}`, pick.quantity])
      )
    );
  let taken = $state<Record<string, string>>(
    untrack(() => {
      const own = promised();
      return Object.keys(own).length > 0 ? own : proposed();
    })
  );
  let until = $state('');
  let refused = $state.raw<Fault[]>([]);
  const going = new GoingOn();
  let again: (() => Promise<void>) | null = null;
  let done = $state('');
  /** Wishes that are not met, where the plan lets it go on and only shows it. */
  let shown = $state.raw<string[]>([]);
  let all = $state<Record<string, boolean>>({});
  /** Lines whose open serials the picker may choose. */
  let anySerial = $state<Record<number, boolean>>({});
  const lines = $derived(data.order.lines.filter((line) => line.marking !== 'none'));
  /** Goods without number: fetched by quantity, all that is open unless less is said. */
  const unnumbered = $derived(
    data.order.lines.filter((line) => line.marking === 'none' && line.left !== '0')
  );
  let byQuantity = $state<Record<number, string>>({});
  const fetched = $derived(
    unnumbered
      .map((line) => ({ line: line.line, quantity: (byQuantity[line.line] ?? line.left).trim() }))
      .filter((one) => one.quantity !== '' && one.quantity !== '0')
  );
  const choicesOf = (product: string) =>
    data.proposal.choices
      .filter((choice) => choice.product === product)
      .sort(
        (a, b) =>
          Number(b.why === 'taken') - Number(a.why === 'taken') ||
          (a.expires ?? '9999').localeCompare(b.expires ?? '9999') ||
          a.number.localeCompare(b.number)
      );
  const takenOf = (line: number) =>
    Object.entries(taken).filter(
      ([key, amount]) => key.startsWith(`${line} `) && parseQuantity(amount)?.gt(0)
    );
  const sumOf = (line: number) => totalOf(takenOf(line).map(([, amount]) => amount));
  const SAYS: Record<string, string> = {
    taken: 'proposed',
    'not needed': 'not needed',
    promised: 'promised to others',
    'too little life': 'too little life for this customer',
    'not enough for one lot': 'not enough for one lot'
  };

  async function choose(rule: string): Promise<void> {
    await goto(`?rule=${encodeURIComponent(rule)}`, {
      keepFocus: true,
      noScroll: true,
      replaceState: true
    });
    taken = proposed();
    done = '';
  }
  const picked = () =>
    lines.flatMap((line) =>
      takenOf(line.line).map(([key, amount]) => ({
        line: line.line,
        choice: data.proposal.choices.find((one) => one.id === Number(key.split(' ')[1]))!,
        quantity: amount.trim()
      }))
    );
  const named = (choice: (typeof data.proposal.choices)[number]) =>
    choice.kind === 'serial' ? { serial: choice.number } : { lot: choice.number };

  /** Lays what is chosen on the order's sheet, as its draft. */
  async function toSheet(): Promise<void> {
    const rows = Object.groupBy(picked(), (one) => String(one.line)) as Record<
      string,
      ReturnType<typeof picked>
    >;
    const body = {
      ...(data.draft ?? {}),
      lines: {
        ...(data.draft?.lines ?? {}),
        ...Object.fromEntries(
          Object.entries(rows).map(([line, list]) => [
            line,
            list.map((one) => ({
              ...named(one.choice),
              ...(one.choice.kind === 'serial' ? {} : { quantity: one.quantity })
            }))
          ])
        )
      }
    };
    const reply = await send(
      'PUT',
      `/api/v1/drafts/${encodeURIComponent(`ship ${data.order.number}`)}`,
      { body }
    );
    if (reply.ok)
      await goto(`/ship/${encodeURIComponent(data.order.number)}`, { invalidateAll: true });
    else refused = reply.refusal.errors as Fault[];
  }
  /**
   * Promises what is chosen and makes the pick list of it; what is still open of a product with
   * serials takes any that is free.
   */
  async function toPicking(): Promise<void> {
    again = toPicking;
    const some = lines.flatMap((line) => {
      const open = quantity(line.left).minus(sumOf(line.line));
      return line.marking.startsWith('serial') && open.gt(0) && anySerial[line.line]
        ? [{ line: line.line, quantity: open.toFixed() }]
        : [];
    });
    const reply = await send(
      'PUT',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/pick-list`,
      {
        until: until || null,
        ...going.given,
        lines: [
          ...picked().map((one) => ({
            line: one.line,
            ...named(one.choice),
            quantity: one.choice.kind === 'serial' ? '1' : one.quantity
          })),
          ...some,
          ...fetched
        ]
      }
    );
    refused = reply.ok ? [] : (reply.refusal.errors as Fault[]);
    if (reply.ok) await goto(`/ship/${encodeURIComponent(data.order.number)}/pick`);
  }
  async function promiseIt(): Promise<void> {
    again = promiseIt;
    const reply = await send<{ promised: number; notes: { message: string }[] }>(
      'PUT',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/promises`,
      {
        until: until || null,
        ...going.given,
        lines: picked().map((one) => ({
          line: one.line,
          ...named(one.choice),
          quantity: one.choice.kind === 'serial' ? '1' : one.quantity
        }))
      }
    );
    refused = reply.ok ? [] : (reply.refusal.errors as Fault[]);
    if (!reply.ok) return;
    going.clear();
    await refresh();
    done =
      reply.body.promised === 0
        ? 'Nothing is promised to this order any more.'
        : `✓ ${count(reply.body.promised, 'mark')} promised to ${data.order.number}${until ? ` until ${sayDay(until)}` : ''}.`;
    shown = reply.body.notes.map((note) => note.message);
  }
</script>

<svelte:head><title>Choose for {data.order.number} · Ship · Earmark</title></svelte:head>
<Working>
  {#snippet list()}<OrdersOf
      kind="sales"
      data={data as never}
      current={data.order.number}
    />{/snippet}
  {#snippet sheet()}
    <div class="choose">
      <div class="head">
        <h1>
          Choose for <a class="number" href="/ship/{encodeURIComponent(data.order.number)}"
            >{data.order.number}</a
          >
          · {data.order.partnerName}
        </h1>
      </div>
      <div class="rules" role="radiogroup" aria-label="How lots are chosen">
        {#each RULES as [rule, says] (rule)}<button
            role="radio"
            aria-checked={data.rule === rule}
            class:on={data.rule === rule}
            onclick={() => choose(rule)}>{says}</button
          >{/each}
      </div>
      {#each refused.filter((fault) => fault.answer !== 'second person') as fault, index (index)}<p
          class="refused"
          role="alert"
        >
          {fault.message}
        </p>{/each}
      <GoOn document={data.order.number} faults={refused} {going} again={() => again?.()} />
      {#if done}<p class="done" role="status">{done}</p>{/if}
      {#each shown as message, index (index)}<p class="mind short">{message}</p>{/each}
      {#each lines as line (line.line)}
        {@const wishes = data.proposal.wishes[line.product]}
        {@const short = data.proposal.lines.find((one) => one.line === line.line)?.short ?? '0'}
        {@const choices = choicesOf(line.product)}
        <section aria-label="Line {line.line}, {line.product}">
          <h2>
            <span class="number">{line.product}</span>
            {line.name}
            <b class="amount" class:good={sumOf(line.line) === line.left}
              >{sayQuantity(sumOf(line.line))} of {sayQuantity(line.left)} {line.unit}</b
            >
          </h2>
          <p class="small soft wish">
            {sayWishes(wishes, data.proposal.limits[line.product] ?? [])}
          </p>
          {#if short !== '0'}<p class="mind short">
              {sayQuantity(short)}
              {line.unit} cannot be had by this customer's wishes. Overrule below with a reason, or ship
              part and keep the rest open.
            </p>{/if}
          {#if line.marking.startsWith('serial') && data.mayPromise && Number(sumOf(line.line)) < Number(line.left)}<label
              class="any small"
              ><input
                type="checkbox"
                checked={anySerial[line.line] ?? false}
                onchange={(event) =>
                  (anySerial = { ...anySerial, [line.line]: event.currentTarget.checked })}
              />
              the picker may take any free serial for the {sayQuantity(
                quantity(line.left).minus(sumOf(line.line)).toFixed()
              )} not chosen here</label
            >{/if}
          <WideTable of="lots and serials">
            <table class="plain middle">
              <thead
                ><tr
                  ><th scope="col">Lot or serial</th><th scope="col">Expires</th><th scope="col"
                    >Spec</th
                  ><th scope="col" class="right">On hand</th><th scope="col">Promised</th><th
                    scope="col">Why</th
                  ><th scope="col" class="right">Take</th></tr
                ></thead
              >
              <tbody>
                {#each choices.slice(0, all[line.line] ? 500 : 12) as choice (choice.id)}
                  <tr class:left={choice.why !== 'taken'}>
                    <td
                      ><Tag
                        kind={choice.kind}
                        number={choice.number}
                        under={choice.place}
                        state={choice.why === 'held' || choice.why === 'rejected'
                          ? choice.why
                          : 'usable'}
                        href="/marks/{choice.id}"
                      /></td
                    >
                    <td
                      >{#if choice.expires}<span
                          class:stop={choice.why === 'expired' || choice.why === 'too little life'}
                          >{sayDay(choice.expires)}<br /><span class="small"
                            >{sayDistance(choice.expires, data.today)}</span
                          ></span
                        >{:else}<span class="soft">–</span>{/if}</td
                    >
                    <td
                      >{#if choice.verdict === 'conforms'}<span class="good">✓ conforms</span
                        >{:else if choice.verdict}<b
                          class:stop={choice.verdict === 'does not conform'}>{choice.verdict}</b
                        ><br /><span class="small">{choice.judged[0] ?? ''}</span>{:else}<span
                          class="soft">–</span
                        >{/if}</td
                    >
                    <td class="right number">{sayAmount(choice.onHand, line.unit)}</td>
                    <td class="small"
                      >{#each choice.promises as promise, index (index)}<span
                          class:own={promise.order === data.order.number}
                          ><b class="number">{sayAmount(promise.quantity, line.unit)}</b> to {promise.order ===
                          data.order.number
                            ? 'this order'
                            : `${promise.order}${promise.partner ? `, ${promise.partner}` : ''}`}{promise.until
                            ? ` until ${sayDay(promise.until)}`
                            : ''}</span
                        ><br />{:else}<span class="soft">free</span>{/each}</td
                    >
                    <td class:good={choice.why === 'taken'} class="small"
                      >{SAYS[choice.why] ?? choice.why}</td
                    >
                    <td class="right"
                      >{#if choice.kind === 'serial'}<input
                          type="checkbox"
                          checked={(taken[`${line.line} ${choice.id}`] ?? '') !== ''}
                          onchange={(event) =>
                            (taken = {
                              ...taken,
                              [`${line.line} ${choice.id}`]: event.currentTarget.checked ? '1' : ''
                            })}
                          aria-label="Take {choice.number}"
                        />{:else}<input
                          class="field number"
                          inputmode="decimal"
                          value={taken[`${line.line} ${choice.id}`] ?? ''}
                          oninput={(event) =>
                            (taken = {
                              ...taken,
                              [`${line.line} ${choice.id}`]: event.currentTarget.value
                            })}
                          aria-label="Take of {choice.number}"
                        />{/if}</td
                    >
                  </tr>
                {:else}<tr
                    ><td colspan="7" class="soft">Nothing of {line.product} is on hand.</td></tr
                  >{/each}
              </tbody>
            </table>
          </WideTable>
          {#if choices.length > 12 && !all[line.line]}<button
              class="act quiet"
              onclick={() => (all = { ...all, [line.line]: true })}
              >Show all {choices.length}</button
            >{/if}
        </section>
      {/each}
      {#if unnumbered.length > 0}
        <section aria-label="Goods without number">
          <h2>Without number, fetched by quantity</h2>
          {#each unnumbered as line (line.line)}
            <label class="loose">
              <b class="number">{line.product}</b>
              <span>{line.name}</span>
              <input
                class="field number"
                inputmode="decimal"
                value={byQuantity[line.line] ?? line.left}
                oninput={(event) =>
                  (byQuantity = { ...byQuantity, [line.line]: event.currentTarget.value })}
                aria-label="Fetch of {line.product}"
              />
              <span class="soft">of {sayQuantity(line.left)} {line.unit} open</span>
            </label>
          {/each}
        </section>
      {/if}
    </div>
  {/snippet}
  {#snippet tally()}
    <span
      ><b class="big number">{picked().length}</b>
      {picked().length === 1 ? 'mark' : 'marks'} chosen</span
    >
    <span class="end">
      {#if data.mayPromise}<DateField label="until" inline bind:value={until} /><button
          class="act"
          onclick={promiseIt}
          >{picked().length > 0
            ? `Promise ${picked().length} to this order`
            : 'Take its promises back'}</button
        >{/if}
      {#if data.mayShip}<button class="act" disabled={picked().length === 0} onclick={toSheet}
          >Put {picked().length} on the sheet</button
        >{/if}
      {#if data.mayPromise}<button
          class="act main"
          disabled={picked().length + fetched.length === 0 &&
            !Object.values(anySerial).some(Boolean)}
          onclick={toPicking}>Make the pick list</button
        >{/if}
    </span>
  {/snippet}
</Working>

<style>
  .choose {
    padding: 12px 18px 20px;
    display: grid;
    gap: 12px;
    align-content: start;
  }
  .rules {
    display: inline-flex;
    justify-self: start;
    border: 1px solid var(--line-strong);
  }
  .rules button {
    border: 0;
    background: var(--panel);
    padding: 0 12px;
    min-height: 38px;
    font-weight: 600;
    color: var(--ink-soft);
    cursor: pointer;
  }
  .rules button + button {
    border-left: 1px solid var(--line-strong);
  }
  .rules .on {
    background: var(--ink);
    color: #fff;
  }
  h2 {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-size: 16px;
    color: var(--ink);
    font-weight: 400;
    border-top: 2px solid var(--ink);
    padding-top: 8px;
  }
  h2 .number {
    font-weight: 600;
  }
  .amount {
    margin-left: auto;
  }
  .wish {
    min-height: 4px;
  }
  .short {
    margin: 6px 0;
  }
  .done {
    background: var(--sea-pale);
    color: var(--sea);
    padding: 8px 12px;
    font-weight: 600;
  }
  tr.left {
    color: var(--ink-soft);
  }
  .field {
    width: 84px;
    text-align: right;
    height: 34px;
  }
  input[type='checkbox'] {
    width: 20px;
    height: 20px;
  }
  .own {
    color: var(--sea);
  }
  .loose {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto auto;
    gap: 12px;
    align-items: center;
    padding: 6px 0;
  }
  .any {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    padding: 4px 0;
  }
  .big {
    font-size: 23px;
    color: var(--ink);
  }
  .end {
    margin-left: auto;
    display: inline-flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
  }
</style>
