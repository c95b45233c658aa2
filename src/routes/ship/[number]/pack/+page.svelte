<!-- The packing bench: what is picked on the left, the carton in hand and all others on the right, dispatch below. -->
<script lang="ts">
  import { inTurn } from '$lib/core/in-turn.ts';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { onMount, tick, untrack } from 'svelte';
  import { TextInput } from 'carbon-components-svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { looksLikeSymbol, readElementString } from '$lib/core/gs1/element-string.ts';
  import { readSscc, saySscc } from '$lib/core/gs1/sscc.ts';
  import { quantity, totalOf } from '$lib/core/quantity/quantity.ts';
  import BookedPanel from '$lib/ui/bench/BookedPanel.svelte';
  import type { Booked, Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import { isOneByOne, setOneByOne } from '$lib/ui/bench/one-by-one.ts';
  import type { Told } from '$lib/ui/bench/in-hand.ts';
  import { sound } from '$lib/ui/bench/sound.ts';
  import ToldScan from '$lib/ui/bench/ToldScan.svelte';
  import { DockActs } from '$lib/ui/dock/acts.svelte.ts';
  import LeftApart from '$lib/ui/dock/LeftApart.svelte';
  import { waiting as dockWaiting } from '$lib/ui/dock/waiting.svelte.ts';
  import { keys } from '$lib/ui/frame/keys.svelte.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import { sayPacked } from '$lib/core/shipping/say-packed.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import {
    withLeftContents,
    withLeftPackings,
    withLeftPicks,
    type LeftPacking,
    type LeftPick
  } from '$lib/ui/shipping/left-picks.ts';
  import { sayWhat } from '$lib/ui/shipping/pick.ts';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';

  let { data } = $props();
  const PACKINGS = '/api/v1/packings';
  const SHIPMENTS = '/api/v1/shipments';
  const NEEDS_LINE =
    'Earmark cannot be reached, and this needs it. Do it again when the line is back.';
  const NEEDS_NUMBER =
    'Without a line no carton gets its number and its label. Take one in hand that has them, or wait for the line.';
  type Pick = (typeof data.picks)[number];
  interface Line {
    product: string;
    lot?: string;
    serial?: string;
    quantity?: string;
  }
  /** SSCC of the carton in hand; null where the next goods begin a new one. */
  let inHand = $state<string | null>(null);
  let text = $state('');
  let said = $state.raw<Told | null>(null);
  let faults = $state.raw<Fault[]>([]);
  const going = new GoingOn();
  let again: (() => Promise<void>) | null = null;
  let busy = $state(false);
  let booked = $state.raw<Booked | null>(null);
  let reference = $state('');
  let chosen = $state<Record<string, boolean>>({});
  let parts = $state<Record<number, string>>({});
  let shipKey = newKey();
  /** A shipment nobody answered, to be left on this device if wished. */
  let toLeave = $state.raw<object | null>(null);
  let field = $state<HTMLInputElement>();
  /** In big type, for arm's length and gloves. */
  let big = $state(false);

  const href = $derived(`/ship/${encodeURIComponent(data.order.number)}`);
  const acts = untrack(
    () =>
      new DockActs<LeftPacking>({
        ...{ login: data.actor!.login, sheet: `pack ${data.order.number}` },
        ...{ document: data.order.number, href: `${href}/pack`, known: `${href}/known` }
      })
  );
  /** What was picked on this device and waits for the line. */
  const leftPicks = $derived(
    dockWaiting
      .apartOf(`pick ${data.order.number}`)
      .flatMap(({ refused, body }) => (refused ? [] : [body as LeftPick]))
  );
  const leaves = $derived(acts.waits.some(({ path }) => path === SHIPMENTS));
  const picks = $derived(withLeftPackings(withLeftPicks(data.picks, leftPicks), acts.effects));
  const units = $derived(withLeftContents(data.units, acts.effects, picks));
  const hand = $derived(units.find((unit) => unit.sscc === inHand));
  const here = $derived(units.filter((unit) => unit.shipped === null));
  const cartons = $derived(here.filter((unit) => unit.kind === 'carton'));
  const pallets = $derived(here.filter((unit) => unit.kind === 'pallet'));
  const loose = $derived(cartons.filter((unit) => unit.pallet === null));
  /** What is picked and not yet in a carton. */
  const waiting = $derived(
    picks.flatMap((pick) => {
      const left = quantity(pick.picked).minus(pick.packed);
      return left.gt(0) && pick.mark !== null ? [{ ...pick, left: left.toFixed() }] : [];
    })
  );
  const toPick = $derived(
    picks.filter((pick) => pick.fell === null && pick.picked !== pick.quantity).length
  );
  const leaving = $derived(
    here.filter((unit) =>
      unit.kind === 'pallet'
        ? unit.cartons.length > 0
        : unit.pallet === null && unit.contents.length > 0
    )
  );
  const goods = $derived(
    totalOf(leaving.flatMap((unit) => unit.summary.map((row) => row.quantity)))
  );
  /** How much goes in of which stops, told beside the lines of a packing. */
  type Packs = LeftPacking['packs'];
  const named = (pick: Pick, amount: string): Line => ({
    product: pick.product,
    ...(pick.kind === 'serial' ? { serial: pick.number! } : { quantity: amount }),
    ...(pick.kind === 'lot' ? { lot: pick.number! } : {})
  });

  async function pack(
    lines: Line[],
    options: {
      unit?: string | null;
      make?: 'carton' | 'pallet';
      units?: string[];
      out?: boolean;
      says: string;
    },
    packs: Packs = []
  ): Promise<void> {
    if (busy) return;
    busy = true;
    const key = newKey();
    again = () => pack(lines, options, packs);
    const body = {
      document: data.order.number,
      kind: options.out ? 'unpack' : 'pack',
      ...(options.unit ? { unit: options.unit } : { make: options.make ?? 'carton' }),
      lines,
      units: options.units ?? [],
      ...going.given
    };
    const reply = await acts.ask<Booked & { units?: string[] }>(PACKINGS, body, key);
    busy = false;
    if (!reply.ok && reply.refusal.status === 0) {
      await packHere(body, key, options.says, packs);
    } else if (!reply.ok) {
      faults = reply.refusal.errors as Fault[];
      said = { tone: 'refused', text: reply.refusal.errors[0]?.message ?? reply.refusal.title };
      sound('refused');
    } else {
      faults = [];
      going.clear();
      again = null;
      if (reply.body.units?.[0] && (options.make ?? 'carton') === 'carton')
        inHand = reply.body.units[0];
      said = { tone: 'taken', text: options.says };
      sound('taken');
      await refresh();
    }
    await tick();
    field?.focus();
  }

  /** Without a line: into a carton that has its number already, by what this device knows. */
  async function packHere(
    body: { unit?: string; kind: string },
    key: string,
    says: string,
    packs: Packs
  ): Promise<void> {
    const refuse = (text: string): void => {
      said = { tone: 'refused', text };
      sound('refused');
    };
    const { unit, kind } = body;
    const known = await acts.known();
    if (!known || packs.length === 0 || kind !== 'pack') return refuse(NEEDS_LINE);
    if (unit === undefined) return refuse(NEEDS_NUMBER);
    const { judgeHere } = await import('$lib/ui/dock/known.ts');
    const verdict = await judgeHere('packings', known, body);
    if (verdict && verdict.faults.length > 0)
      return refuse(verdict.faults.map((fault) => fault.message).join(' '));
    await acts.leave(PACKINGS, body, key, { unit, packs });
    said = { tone: 'taken', text: `${says} Kept on this device until the line is back.` };
    sound('taken');
  }

  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  /** A scan at the bench: the SSCC of a carton takes it in hand, a lot or serial goes into it. */
  async function take(scan: string): Promise<void> {
    const sscc = readSscc(scan);
    if (sscc) {
      const unit = here.find((one) => one.sscc === sscc);
      if (unit?.kind === 'carton') {
        inHand = sscc;
        said = { tone: 'taken', text: `Carton …${sscc.slice(-6)} in hand.` };
      } else
        said = {
          tone: 'refused',
          text: unit
            ? `…${sscc.slice(-6)} is a pallet. Cartons go onto it below.`
            : `${saySscc(sscc)} is no carton of ${data.order.number}.`
        };
      return;
    }
    let number = scan.trim();
    if (looksLikeSymbol(scan)) {
      const reading = readElementString(scan, data.today);
      number = reading.ok ? (reading.symbol.serial ?? reading.symbol.lot ?? '') : '';
      if (number === '') {
        said = {
          tone: 'refused',
          text: reading.ok
            ? 'The symbol names no lot or serial. Scan its number.'
            : `The symbol cannot be read: ${reading.why}. Scan it again.`
        };
        return;
      }
    }
    const pick = waiting.find((one) => sayWhat(one).toUpperCase() === number.toUpperCase());
    if (!pick) {
      const packed = here.find((unit) =>
        unit.contents.some((one) => one.number?.toUpperCase() === number.toUpperCase())
      );
      said = {
        tone: 'refused',
        text: packed
          ? sayPacked(number, packed.sscc)
          : `${number} is not picked for ${data.order.number}. Pick it first, or put it back.`
      };
      sound('refused');
      return;
    }
    await packOne(pick);
  }
  const packOne = (pick: Pick & { left: string }): Promise<void> => {
    const amount = parts[pick.id]?.trim() || pick.left;
    return pack([named(pick, amount)], { unit: inHand, says: `${sayWhat(pick)} packed.` }, [
      { pick: pick.id, amount }
    ]);
  };

  const rest = () =>
    pack(
      waiting.map((pick) => named(pick, pick.left)),
      {
        unit: inHand,
        says: `${count(waiting.length, 'lot or serial', 'lots and serials')} packed.`
      },
      waiting.map((pick) => ({ pick: pick.id, amount: pick.left }))
    );
  const onPallet = () => {
    const units = loose.filter((unit) => chosen[unit.sscc]).map((unit) => unit.sscc);
    chosen = {};
    return pack([], {
      make: 'pallet',
      units,
      says: `${count(units.length, 'carton')} on a new pallet.`
    });
  };

  async function shipIt(): Promise<void> {
    if (busy) return;
    busy = true;
    again = shipIt;
    const leave = leaving.map((unit) => unit.sscc);
    const body = {
      document: data.order.number,
      customer: data.order.partner,
      ...(reference.trim() ? { reference: reference.trim() } : {}),
      units: leave,
      ...going.given
    };
    const reply = await acts.ask<Booked>(SHIPMENTS, body, shipKey);
    busy = false;
    if (!reply.ok && reply.refusal.status === 0) {
      toLeave = body;
      said = { tone: 'refused', text: 'Earmark cannot be reached: nothing is shipped yet.' };
      return;
    }
    if (!reply.ok) {
      faults = reply.refusal.errors as Fault[];
      said = { tone: 'refused', text: reply.refusal.errors[0]?.message ?? reply.refusal.title };
      return;
    }
    shipKey = newKey();
    booked = reply.body;
    await refresh();
  }
  /** The truck leaves whether there is a line or not. */
  async function shipLater(): Promise<void> {
    await acts.leave(SHIPMENTS, toLeave!, shipKey, { unit: '', packs: [] });
    shipKey = newKey();
    toLeave = null;
    said = { tone: 'taken', text: 'Left on this device. It is shipped when the line is back.' };
  }
  onMount(() => {
    big = isOneByOne(localStorage);
    if (data.mayPack)
      scanTarget.current = {
        offer: () => `Pack for ${data.order.number}`,
        take: takeInTurn
      };
    keys.screen = [
      {
        key: 'Ctrl+Enter',
        says: 'ship what is packed',
        act: () => {
          if (data.mayPack && leaving.length > 0) void shipIt();
        }
      }
    ];
    field?.focus();
    if (data.mayPack) void acts.open();
    return () => {
      scanTarget.current = null;
      keys.screen = [];
    };
  });
</script>

<svelte:head><title>Pack {data.order.number} · Ship · Earmark</title></svelte:head>
<Working>
  {#snippet list()}
    <div class="picked" class:big>
      <h2>Picked, to pack <span>{waiting.length}</span></h2>
      <ul>
        {#each waiting as pick (pick.id)}
          <li>
            <span class="what"
              ><b class="number">{sayWhat(pick)}</b><span class="small soft"
                >{pick.product}{pick.expires ? ` · ${sayDay(pick.expires)}` : ''}</span
              ></span
            >
            {#if pick.kind === 'serial'}<span></span>{:else}<input
                class="field number"
                inputmode="decimal"
                value={parts[pick.id] ?? ''}
                placeholder={pick.left}
                oninput={(event) => (parts = { ...parts, [pick.id]: event.currentTarget.value })}
                aria-label="How much of {sayWhat(pick)} goes in"
              />{/if}
            {#if data.mayPack}<button
                class="take"
                onclick={() => void packOne(pick)}
                aria-label="Pack {sayWhat(pick)}">+</button
              >{/if}
          </li>
        {:else}<li class="none soft small">
            {#if toPick > 0}Nothing waits. <a
                href="/ship/{encodeURIComponent(data.order.number)}/pick"
                >{count(toPick, 'stop')} still to pick</a
              >.{:else if data.picks.length > 0 || here.length > 0}All that was picked is packed.{:else}What
              is picked waits here. <a href="/ship/{encodeURIComponent(data.order.number)}/choose"
                >Choose and make a pick list</a
              >.{/if}
          </li>{/each}
      </ul>
      {#if waiting.length > 1 && data.mayPack}<button class="act" onclick={rest}
          >All {waiting.length} into {inHand ? 'this carton' : 'one carton'}</button
        >{/if}
    </div>
  {/snippet}
  {#snippet sheet()}
    {#if booked}
      <BookedPanel {booked} verb="Shipped on" next={null} onagain={null} shipment />
    {:else}
      <div class="pack" class:big>
        <h1>
          Pack <a class="number" href="/ship/{encodeURIComponent(data.order.number)}"
            >{data.order.number}</a
          >
          · {data.order.partnerName}
          {#if acts.isReady}<span class="soft small">works without a line</span>{/if}
          {#if data.mayPack}<button
              class="act type"
              aria-pressed={big}
              onclick={() => {
                big = !big;
                setOneByOne(localStorage, big);
                field?.focus();
              }}>Big type</button
            >{/if}
        </h1>
        {#if big}<p class="hand-in">
            {#if hand}Carton <b class="number">…{hand.sscc.slice(-6)}</b><span
                >{count(hand.contents.length, 'number')} in it</span
              >{:else}<b>No carton in hand</b><span>the next thing begins one</span>{/if}
            <span class="rest number"
              >{waiting.length === 0 ? 'all packed' : `${waiting.length} to pack`}</span
            >
          </p>{/if}
        <ToldScan
          told={said ?? {
            tone: 'ask',
            text: inHand
              ? 'Scan what goes into the carton in hand.'
              : 'Scan the first thing that goes in: it begins a carton.'
          }}
        />
        {#if leaves}<p class="mind">
            The shipment waits on this device and is booked when the line is back. Do not sign out
            before.
          </p>{:else if toLeave}<p class="mind">
            Leave it on this device, and it is shipped when the line is back.
            <button class="act main" onclick={shipLater}>Ship when the line is back</button>
          </p>{:else if acts.waits.length > 0}<p class="mind">
            {count(acts.waits.length, 'act')} of packing
            {acts.waits.length === 1 ? 'is' : 'are'} kept on this device and booked when the line is back.
          </p>{/if}
        <LeftApart refused={acts.refused} />
        <GoOn document={data.order.number} {faults} {going} again={() => again?.()} />
        {#if data.mayPack}<form
            onsubmit={(event) => {
              event.preventDefault();
              const scanned = text;
              text = '';
              takeInTurn(scanned);
            }}
          >
            <input
              class="number"
              bind:this={field}
              bind:value={text}
              aria-label="Scan a lot, a serial or a carton"
              placeholder="scan here"
              autocomplete="off"
              spellcheck="false"
            /><button
              type="button"
              class="act"
              onclick={() => {
                inHand = null;
                said = { tone: 'ask', text: 'The next thing begins a new carton.' };
                field?.focus();
              }}>New carton</button
            >
          </form>{/if}
        {#each [...pallets, ...loose, ...cartons.filter((unit) => unit.pallet !== null)] as unit (unit.sscc)}
          <section
            class="unit {unit.kind}"
            class:hand={unit.sscc === inHand}
            class:on={unit.pallet !== null}
          >
            <header>
              {#if unit.kind === 'carton' && unit.pallet === null && data.mayPack}<input
                  type="checkbox"
                  checked={chosen[unit.sscc] ?? false}
                  onchange={(event) =>
                    (chosen = { ...chosen, [unit.sscc]: event.currentTarget.checked })}
                  aria-label="Choose carton {unit.sscc} for a pallet"
                />{/if}
              <b>{unit.kind === 'pallet' ? 'Pallet' : 'Carton'}</b>
              <a class="number" href="/units/{unit.sscc}">{saySscc(unit.sscc)}</a>
              {#if unit.pallet}<span class="small soft">on pallet …{unit.pallet.slice(-6)}</span
                >{/if}
              <span class="acts">
                {#if unit.kind === 'carton' && unit.sscc !== inHand && data.mayPack}<button
                    class="act quiet"
                    onclick={() => {
                      inHand = unit.sscc;
                      field?.focus();
                    }}>Take in hand</button
                  >{/if}
                {#if unit.kind === 'carton' && unit.pallet && data.mayPack}<button
                    class="act quiet"
                    onclick={() =>
                      pack([], {
                        unit: unit.pallet,
                        units: [unit.sscc],
                        out: true,
                        says: 'Taken off its pallet.'
                      })}>Off the pallet</button
                  >{/if}
                <a
                  class="act quiet"
                  href="/api/v1/units/{unit.sscc}/label"
                  target="_blank"
                  rel="noopener">Label</a
                >
              </span>
            </header>
            {#if unit.kind === 'pallet'}<ul>
                {#each unit.cartons as carton (carton.sscc)}<li>
                    <span class="number">…{carton.sscc.slice(-6)}</span><span>{carton.goods}</span>
                  </li>{:else}<li class="soft">No carton stands on it.</li>{/each}
              </ul>
            {:else}<ul>
                {#each unit.contents as one, at (at)}<li>
                    <a class="number" href="/marks/{one.mark}">{one.number ?? one.product}</a><span
                      class="soft"
                      >{one.product}{one.expires ? ` · ${sayDay(one.expires)}` : ''}</span
                    ><b class="number">{sayAmount(one.quantity, one.unit)}</b
                    >{#if data.mayPack}<button
                        class="act quiet"
                        onclick={() =>
                          pack(
                            [
                              {
                                product: one.product,
                                ...(one.kind === 'serial'
                                  ? { serial: one.number! }
                                  : one.kind === 'lot'
                                    ? { lot: one.number! }
                                    : {})
                              }
                            ],
                            {
                              unit: unit.sscc,
                              out: true,
                              says: `${one.number ?? one.product} taken out.`
                            }
                          )}
                        aria-label="Take {one.number ?? one.product} out">Take out</button
                      >{/if}
                  </li>{:else}<li class="soft">Empty. An empty carton does not leave.</li>{/each}
              </ul>{/if}
          </section>
        {/each}
        {#if loose.some((unit) => chosen[unit.sscc])}<button class="act" onclick={onPallet}
            >{count(loose.filter((unit) => chosen[unit.sscc]).length, 'carton')} onto a new pallet</button
          >{/if}
      </div>
    {/if}
  {/snippet}
  {#snippet tally()}
    {#if !booked && data.mayPack}
      <span
        ><b class="big number">{leaving.length}</b>
        {leaving.length === 1 ? 'unit' : 'units'} with <b class="number">{sayQuantity(goods)}</b> packed</span
      >
      {#if waiting.length > 0}<span class="stop"
          >{count(waiting.length, 'picked lot or serial', 'picked lots and serials')} not packed</span
        >{/if}
      <span class="end"
        ><span class="reference"
          ><TextInput
            size="sm"
            hideLabel
            labelText="Carrier’s number"
            placeholder="Carrier’s number"
            bind:value={reference}
            maxlength={100}
          /></span
        >
        {#if leaving.length > 0}<a
            class="act"
            href="/api/v1/units/{here.map((unit) => unit.sscc).join(',')}/label"
            target="_blank"
            rel="noopener">All labels</a
          >{/if}
        <button
          class="act main"
          disabled={leaving.length === 0 || busy || leaves}
          onclick={() => turn(shipIt)}
          >Ship {leaving.length === 0
            ? 'what is packed'
            : count(
                leaving.length,
                leaving.every((unit) => unit.kind === 'pallet')
                  ? 'pallet'
                  : leaving.some((unit) => unit.kind === 'pallet')
                    ? 'unit'
                    : 'carton'
              )}</button
        ></span
      >
    {:else}<span class="soft small"
        >{booked ? 'Booked. The ledger has it.' : 'Your role reads this; it does not pack.'}</span
      >{/if}
  {/snippet}
</Working>

<style>
  .picked {
    padding: 14px;
    display: grid;
    gap: 10px;
    align-content: start;
  }
  .picked li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 8px;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  .picked .none {
    display: block;
  }
  .picked .field {
    width: 76px;
    height: 36px;
    text-align: right;
  }
  .what {
    display: grid;
    overflow-wrap: anywhere;
  }
  .take {
    width: 40px;
    height: 40px;
    border: 1px solid var(--brass);
    border-radius: 2px;
    background: var(--panel);
    color: var(--brass);
    font-size: 18px;
    font-weight: 600;
    cursor: pointer;
  }
  .pack {
    --told-height: 50px;
    --told-padding: 10px 14px;
    --told-size: 17px;
    padding: 12px 18px 20px;
    display: grid;
    gap: 12px;
    align-content: start;
  }
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 10px;
  }
  form input {
    height: 48px;
    border: 2px solid var(--line-strong);
    padding: 0 14px;
    font-size: 19px;
    background: var(--panel);
    color: var(--ink);
  }
  form .act {
    min-height: 48px;
  }
  h1 .type {
    margin-left: 12px;
    font-size: 14px;
    vertical-align: middle;
  }
  .type[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: #fff;
  }
  .hand-in {
    display: flex;
    align-items: baseline;
    flex-wrap: wrap;
    gap: 4px 14px;
    padding: 8px 18px;
    border: 2px solid var(--ink);
    background: var(--paper-deep);
    font-size: 20px;
  }
  .hand-in b {
    font-size: 30px;
    line-height: 1.15;
  }
  .rest {
    margin-left: auto;
    font-size: 26px;
    font-weight: 600;
  }
  .pack.big {
    --told-height: 58px;
    --told-padding: 12px 16px;
    --told-size: 21px;
  }
  .pack.big form input,
  .pack.big form .act {
    min-height: 56px;
    font-size: 21px;
  }
  .pack.big .unit li {
    font-size: 18px;
    min-height: 48px;
  }
  .pack.big .unit header {
    font-size: 18px;
  }
  .pack.big .unit .act {
    min-height: 48px;
    font-size: 16px;
  }
  .picked.big li {
    font-size: 18px;
    min-height: 60px;
  }
  .picked.big .take {
    width: 56px;
    height: 56px;
    font-size: 26px;
  }
  .picked.big > .act {
    min-height: 56px;
    font-size: 17px;
  }
  .unit {
    border: 1px solid var(--line);
    border-left: 5px solid var(--line-strong);
    background: var(--panel);
  }
  .unit.hand {
    border-color: var(--brass);
    background: var(--brass-pale);
  }
  .unit.pallet {
    border-left-color: var(--ink);
    background: var(--paper-deep);
  }
  .unit.on {
    margin-left: 26px;
  }
  .unit header {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    padding: 6px 10px;
  }
  .unit header .acts {
    margin-left: auto;
    display: inline-flex;
  }
  input[type='checkbox'] {
    width: 20px;
    height: 20px;
  }
  .unit li {
    display: flex;
    gap: 12px;
    align-items: center;
    padding: 3px 12px;
    border-top: 1px solid #ebe5da;
    font-size: 14px;
    min-height: 36px;
  }
  .unit li b {
    margin-left: auto;
  }
  .big {
    font-size: 23px;
  }
  .end {
    margin-left: auto;
    display: inline-flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
  }
  .reference {
    width: 170px;
  }
</style>
