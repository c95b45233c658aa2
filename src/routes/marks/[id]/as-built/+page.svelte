<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { hasSerials } from '$lib/core/catalogue/plan.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const record = $derived(data.record);
  const root = $derived(record.lines[0]!);
  const odd = $derived(Object.entries(record.counts) as [string, number][]);
  const asked = $derived(data.asked);
  const title = $derived.by(() => {
    if (asked.day) return `What was in it on ${sayDay(asked.day)}`;
    return asked.as === 'is' ? 'What is in it now' : 'As built';
  });
  const query = $derived.by(() => {
    if (asked.day) return `&day=${asked.day}`;
    return asked.as === 'is' ? '&as=is' : '';
  });
  function look(day: string): void {
    if (day) void goto(`?day=${day}`, { keepFocus: true });
  }
  let onlyOdd = $state(false);
  let most = $state<number | null>(null);
  const deepest = $derived(Math.max(...record.lines.map((line) => line.level)));
  /** A part nobody named at the build goes in by rework: the unit goes in and comes out with it. */
  let given = $state<Record<string, string>>({});
  let refused = $state.raw<{ product: string; says: string } | null>(null);
  async function putIn(product: string, amount: string): Promise<void> {
    const number = given[product]?.trim() ?? '';
    const marking = data.markings[product] ?? 'lot';
    const unit = {
      product: record.mark.product,
      quantity: '1',
      serial: record.mark.number
    };
    const reply = await send(
      'POST',
      '/api/v1/builds',
      {
        document: root.making?.document ?? 'REWORK',
        place: data.lies,
        groups: [
          {
            outputs: [unit],
            inputs: [
              unit,
              {
                product,
                quantity: hasSerials(marking) ? '1' : amount,
                ...(marking === 'none'
                  ? {}
                  : hasSerials(marking)
                    ? { serial: number }
                    : { lot: number })
              }
            ]
          }
        ]
      },
      { 'idempotency-key': newKey() }
    );
    refused = reply.ok ? null : { product, says: messagesOf(reply.refusal).join(' ') };
    if (reply.ok) await refresh();
  }
  const placed = $derived(record.lines.some((line) => line.position !== null));
  /** A part goes into one unit later; a lot is a mixture, which is booked anew. */
  const single = $derived(record.mark.kind === 'serial');
  const mayMend = $derived(data.mayBuild && data.lies !== null);
  const shown = $derived(
    record.lines
      .slice(1)
      .filter(
        (line) =>
          (most === null || line.level <= most) &&
          (!onlyOdd || (line.verdict !== null && line.verdict !== 'as the bill says'))
      )
  );
</script>

<svelte:head
  ><title>{record.mark.number ?? record.mark.product}: {title} · Earmark</title></svelte:head
>
<div class="screen">
  <div class="head">
    <Tag
      kind={record.mark.kind}
      number={record.mark.number}
      under="{record.mark.product} {record.mark.name}"
      state={record.mark.state}
      large
      href="/marks/{record.mark.id}"
    />
    <div class="say">
      <h1>{title}</h1>
      <p>
        {#if root.making}{root.making.kind}
          <a class="number" href="/events/{root.making.event}">{root.making.document}</a>, {sayInstant(
            root.making.at
          )}, by {root.making.who}{root.making.bill
            ? `, bill version ${root.making.bill}`
            : ''}{:else if record.mark.supplier}Not made here: received from {record.mark
            .supplier}.{:else}What it was made of was not recorded.{/if}
      </p>
    </div>
    <p class="verdict" class:bad={odd.length > 0 || record.lines.length === 1}>
      {#if record.lines.length === 1}{asked.as === 'is'
          ? 'Nothing is recorded as being in it.'
          : 'Nothing is recorded as having gone in.'}{:else if odd.length === 0}<b
          >✓ Everything as its bills say</b
        >, {count(record.lines.length - 1, 'part')} through {count(deepest, 'level')}.{:else}<b
          >{odd.map(([verdict, n]) => `${n} ${verdict}`).join(', ')}</b
        >
        of {count(record.lines.length - 1, 'part')} through {count(deepest, 'level')}.{/if}
    </p>
    <div class="acts">
      <a
        class="act main"
        href="/api/v1/marks/{record.mark.id}/as-built?format=pdf{query}"
        target="_blank"
        rel="noopener">As PDF</a
      ><a class="act" href="/trace/{record.mark.id}?direction=upstream">Where from, as a river</a>
    </div>
  </div>
  <div class="tools">
    <a class="pick" class:on={asked.as === 'built'} href="?as=built">As built</a><a
      class="pick"
      class:on={asked.as === 'is' && !asked.day}
      href="?as=is">In it now</a
    ><DateField
      label="on a day"
      inline
      max={data.today}
      value={asked.day ?? ''}
      onday={look}
    />{#if data.mayFit && data.lies}<a class="act" href="/fit/{record.mark.id}">Swap parts …</a
      >{/if}
  </div>
  {#if record.lines.length > 1}
    <div class="tools">
      <span>levels</span>
      {#each Array.from({ length: deepest }, (_, index) => index + 1) as level (level)}<button
          class="pick"
          class:on={(most ?? deepest) === level}
          aria-pressed={(most ?? deepest) === level}
          onclick={() => (most = level)}>{level}</button
        >{/each}
      {#if odd.length > 0}<label
          ><input type="checkbox" bind:checked={onlyOdd} /> only what differs from the bill</label
        >{/if}
    </div>
    <WideTable of="parts">
      <table class="plain middle">
        <thead
          ><tr
            ><th scope="col">Part</th>{#if placed}<th scope="col">Position</th>{/if}<th
              scope="col"
              class="right">In it</th
            ><th scope="col">Beside its bill</th><th scope="col">Lot, expiry, supplier</th><th
              scope="col">Made or received</th
            ></tr
          ></thead
        >
        <tbody>
          {#each shown as line, index (index)}
            <tr class:odd={line.verdict !== null && line.verdict !== 'as the bill says'}>
              <td
                ><div class="part" style:padding-left="{(line.level - 1) * 26}px">
                  {#if line.level > 1}<span class="elbow" aria-hidden="true"></span>{/if}<span
                    class="visually-hidden">level {line.level}:</span
                  >
                  {#if line.mark}<Tag
                      kind={line.mark.kind}
                      number={line.mark.number}
                      under="{line.product} {line.mark.name}"
                      state={line.mark.state}
                      href="/marks/{line.mark.id}"
                    />{:else}<span class="hole"><b class="number">{line.product}</b> not named</span
                    >{#if mayMend && single && line.level === 1}<form
                        onsubmit={(event) => {
                          event.preventDefault();
                          void putIn(line.product, line.wanted ?? '1');
                        }}
                      >
                        {#if data.markings[line.product] !== 'none'}<input
                            class="field number"
                            value={given[line.product] ?? ''}
                            oninput={(event) =>
                              (given = { ...given, [line.product]: event.currentTarget.value })}
                            placeholder={hasSerials(data.markings[line.product] ?? 'lot')
                              ? 'its serial'
                              : 'its lot'}
                            aria-label="Number of the {line.product} that is missing"
                          />{/if}<button class="act">Put it in</button>
                      </form>
                      {#if refused?.product === line.product}<span class="stop small" role="alert"
                          >{refused.says}</span
                        >{/if}{/if}{/if}
                </div></td
              >
              {#if placed}<td>{line.position ?? ''}</td>{/if}
              <td class="right"
                ><b class="number">{sayQuantity(line.quantity)}</b>
                <span class="small soft">{line.mark?.unit ?? ''}</span>{#if line.shared}<br /><span
                    class="small soft">share of a batch</span
                  >{/if}</td
              >
              <td
                >{#if line.verdict === 'as the bill says'}<span class="good">✓ as billed</span
                  >{:else if line.verdict}<b class="stop"
                    >{line.verdict}{line.instead ? ` for ${line.instead}` : ''}</b
                  >{#if line.wanted && line.verdict !== 'extra' && line.verdict !== 'alternate'}<br
                    /><span class="small">{sayQuantity(line.wanted)} wanted</span
                    >{/if}{#if mayMend && line.level === 1 && (line.verdict === 'less' || (line.verdict === 'missing' && !single))}<br
                    />{#if single}<a class="small" href="/fit/{record.mark.id}">Put the rest in</a
                      >{:else if root.making}<a class="small" href="/events/{root.making.event}"
                        >Take the booking back, and book it with all that went in</a
                      >{/if}{/if}{:else}<span class="soft">–</span>{/if}</td
              >
              <td class="small"
                >{#if line.mark}{#if line.mark.lot && line.mark.kind === 'serial'}lot <span
                      class="number">{line.mark.lot}</span
                    ><br />{/if}{#if line.mark.expires}<span
                      class:stop={line.mark.expires < data.today}
                      >expires {sayDay(line.mark.expires)}, {sayDistance(
                        line.mark.expires,
                        data.today
                      )}</span
                    ><br />{/if}{#if line.mark.supplier}{line.mark
                      .supplier}{#if line.mark.supplierNumber}<br /><span class="number"
                        >{line.mark.supplierNumber}</span
                      >{/if}{/if}{#if line.mark.kind === 'bulk'}unmarked: kept by quantity{/if}{/if}</td
              >
              <td class="small"
                >{#if line.making}<a class="number" href="/events/{line.making.event}"
                    >{line.making.document}</a
                  >, {sayInstant(line.making.at)}<br /><span class="soft">{line.making.who}</span
                  >{/if}{#if line.repeated}<br /><i>its parts stand above</i>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </WideTable>
    {#if record.cut}<p class="soft">
        More than {record.lines.length - 1} parts; the trace has every one.
      </p>{/if}
    <p class="small soft">
      What came from a lot is its even share: mixing within a lot is assumed to be even.
    </p>
  {/if}
</div>

<style>
  .screen {
    padding: 18px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 14px;
    align-content: start;
  }
  .head {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 8px 22px;
    align-items: center;
  }
  .say {
    display: grid;
    gap: 2px;
  }
  .acts {
    display: flex;
    gap: 10px;
    grid-row: 1;
    grid-column: 3;
  }
  .verdict {
    grid-column: 1 / -1;
    padding: 9px 14px;
    background: var(--sea-pale);
    color: var(--sea);
  }
  .verdict.bad {
    background: var(--amber);
    color: var(--ink);
  }
  .tools {
    display: flex;
    gap: 6px;
    align-items: center;
    font-size: 14px;
    color: var(--ink-soft);
  }
  a.pick {
    display: inline-flex;
    align-items: center;
    padding: 0 12px;
    color: inherit;
    text-decoration: none;
  }
  .pick {
    border: 1px solid var(--line-strong);
    background: var(--panel);
    min-width: 32px;
    height: 32px;
    cursor: pointer;
  }
  .pick.on {
    background: var(--ink);
    color: #fff;
    border-color: var(--ink);
  }
  .tools label {
    margin-left: 14px;
    display: inline-flex;
    gap: 6px;
    align-items: center;
  }
  .part {
    display: flex;
    align-items: center;
  }
  .elbow {
    flex: none;
    width: 16px;
    height: 30px;
    margin: -22px 4px 0 -18px;
    border-left: 1.5px solid var(--line-strong);
    border-bottom: 1.5px solid var(--line-strong);
  }
  form {
    display: inline-flex;
    gap: 6px;
    margin-left: 10px;
  }
  form .field {
    width: 150px;
  }
  .hole {
    border: 1.5px dashed var(--rust);
    color: var(--rust);
    padding: 9px 14px;
    min-width: 150px;
  }
  tr.odd {
    background: var(--rust-pale);
  }
  @media (max-width: 800px) {
    .head {
      grid-template-columns: minmax(0, 1fr);
    }
    .acts {
      grid-row: auto;
      grid-column: auto;
    }
    .screen {
      padding: 12px;
    }
  }
</style>
