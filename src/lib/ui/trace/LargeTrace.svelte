<!-- A trace larger than a screen draws: what it comes to, who has it, and ways on: narrower, or all of it as a file. -->
<script lang="ts">
  import { quantity, totalOf } from '$lib/core/quantity/quantity.ts';
  import type { Goods, LargeTrace } from '$lib/core/trace/large-trace.ts';
  import AndMore from '$lib/ui/parts/AndMore.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';
  import ClearedByTime from './ClearedByTime.svelte';
  import type { MarkRecord } from '$lib/core/ledger/mark-record.ts';
  import type { PartnerEnd } from '$lib/core/trace/trace.ts';
  import { narrower, proofOf, savedBy } from './narrower.svelte.ts';

  interface Props {
    data: {
      at: string;
      direction: 'upstream' | 'downstream';
      until: string | null;
      from: string | null;
      clocks: 'obey' | 'ignore';
      without: { products: string[]; kinds: string[] };
      setTitle: string | null;
      mayRecall: boolean;
      mayProve: boolean;
      most: number;
      large: LargeTrace & {
        cleared: { count: number; marks: MarkRecord[]; customers: PartnerEnd[] };
        title: string;
        rootId: number;
        rootUnit: string;
        rootName: string;
      };
      products: Record<string, { name: string; unit: string }>;
      partners: Record<string, string>;
      places: Record<string, string>;
    };
  }
  let { data }: Props = $props();
  const large = $derived(data.large);
  const causes = $derived(large.balances.flatMap((one) => one.causes));
  const down = $derived(data.direction === 'downstream');
  const sum = (pick: 'in' | 'onHand' | 'used' | 'shipped' | 'scrapped' | 'corrected') =>
    totalOf(large.balances.map((one) => one[pick]));
  const open = $derived(totalOf(large.balances.map((one) => quantity(one.open).abs().toFixed())));
  const accounted = $derived.by(() => {
    const whole = quantity(sum('in')).plus(sum('corrected'));
    return whole.isZero()
      ? open === '0'
        ? '100'
        : '0'
      : whole.minus(open).div(whole).times(100).toDecimalPlaces(1, 1).toString();
  });
  const said = (goods: readonly Goods[]) =>
    goods
      .slice(0, 4)
      .map(
        (one) =>
          `${sayQuantity(one.quantity)} ${data.products[one.product]?.unit ?? ''} ${one.product}`
      )
      .join(', ') + (goods.length > 4 ? ` and ${goods.length - 4} more` : '');
  const partners = $derived(down ? large.customers : large.suppliers);
  const origins = $derived(down ? [] : large.origins);
  /** Products beyond those of the roots: leaving a root's own out would leave nothing. */
  const others = $derived(
    [...new Set([...large.rows.map((row) => row.product), ...data.without.products])].filter(
      (product) => !large.rows.some((row) => row.level === 0 && row.product === product)
    )
  );
  const mostMarks = $derived(Math.max(...large.rows.map((row) => row.marks)));
</script>

<svelte:head><title>{data.setTitle ?? large.title} · Trace · Earmark</title></svelte:head>
<Working>
  {#snippet sheet()}
    <div class="head">
      <div>
        <h1>
          {#if large.roots > 1}{data.setTitle ?? large.title}: {count(
              large.roots,
              'lot or serial',
              'lots and serials'
            )}{:else}<a class="number" href="/marks/{large.rootId}">{large.title}</a> · {large.rootName}{/if}
        </h1>
        <p class="soft small">
          {count(large.marks, 'mark')} on {count(large.levels, 'level')}, {partners.length}
          {down
            ? partners.length === 1
              ? 'customer'
              : 'customers'
            : partners.length === 1
              ? 'supplier'
              : 'suppliers'}{data.until ? ' · as it stood then' : ' · as it stands now'}{data.from
            ? ` · from ${data.from}`
            : ''}{data.clocks === 'ignore' ? ' · beyond time' : ''}{data.without.products.length > 0
            ? ` · not into ${data.without.products.join(', ')}`
            : ''}
        </p>
      </div>
      <div class="ways">
        <a class="act" class:main={!down} href="/trace/{data.at}?direction=upstream">◂ Upstream</a>
        <a class="act" class:main={down} href="/trace/{data.at}?direction=downstream"
          >Downstream ▸</a
        >
      </div>
    </div>
    <p class="why">
      More than the {sayQuantity(String(data.most))} marks that are drawn one by one. Here is what they
      come to{others.length > 0 ? '; leave products out at the right to draw the rest, or' : ';'} take
      every mark as a file.
    </p>
    <div class="scroll">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Level</th><th scope="col">Product</th><th scope="col" class="right"
              >Marks</th
            ><th scope="col"><span class="visually-hidden">Share of the largest</span></th><th
              scope="col"
              class="right">{down ? 'With customers' : ''}</th
            ><th scope="col" class="right">{down ? 'Here' : ''}</th><th scope="col" class="right"
              >{down ? 'Scrapped' : ''}</th
            ></tr
          ></thead
        >
        <tbody>
          {#each large.rows as row (`${row.level} ${row.product}`)}
            <tr
              ><td class="number">{row.level}</td><td
                ><b class="number">{row.product}</b>
                <span class="soft">{data.products[row.product]?.name}</span></td
              ><td class="right number">{sayQuantity(String(row.marks))}</td>
              <td class="bar"
                ><span style:width="{Math.max(1, (row.marks / mostMarks) * 100)}%"></span></td
              >
              {#if down}<td class="right number"
                  >{row.out > 0 ? sayQuantity(String(row.out)) : '–'}</td
                ><td class="right number">{row.here > 0 ? sayQuantity(String(row.here)) : '–'}</td
                ><td class="right number"
                  >{row.scrapped > 0 ? sayQuantity(String(row.scrapped)) : '–'}</td
                >{:else}<td></td><td></td><td></td>{/if}</tr
            >
          {/each}
        </tbody>
      </table>
      <div class="two">
        <section>
          <h2>{down ? 'Who has it' : 'Where it came from'}</h2>
          <ul class="ends">
            {#each partners as one (one.partner)}<li>
                <b>{data.partners[one.partner] ?? one.partner}</b>
                <span class="small">{said(one.goods)}</span><br /><span class="small soft number"
                  >{one.documents.slice(0, 6).join(', ')}{one.documents.length > 6
                    ? ` and ${one.documents.length - 6} more`
                    : ''}</span
                >
              </li>{/each}
            {#each origins as one (one.what)}<li>
                <b>{one.what}</b>
                <span class="small">{said(one.goods)}</span><br /><span class="small soft number"
                  >{one.documents.slice(0, 6).join(', ')}{one.documents.length > 6
                    ? ` and ${one.documents.length - 6} more`
                    : ''}</span
                >
              </li>{/each}
            {#if partners.length + origins.length === 0}<li class="soft small">
                {down ? 'No customer has it.' : 'No supplier: nothing of it was received.'}
              </li>{/if}
          </ul>
        </section>
        {#if down}
          <section>
            <h2>What lies here</h2>
            <ul class="ends">
              {#each large.here as one (one.place)}<li>
                  <b>{data.places[one.place] ?? one.place}</b>
                  <span class="small">{said(one.goods)}</span>
                </li>{:else}<li class="soft small">Nothing of it is on hand.</li>{/each}
            </ul>
          </section>
        {/if}
      </div>
    </div>
  {/snippet}
  {#snippet margin()}
    <div class="aside">
      <section>
        <h2>Mass balance</h2>
        <dl>
          {#each [['came in or made', sum('in')], ['on hand', sum('onHand')], ['used in builds', sum('used')], ['shipped as such', sum('shipped')], ['scrapped', sum('scrapped')], ['corrected', sum('corrected')]] as [says, value] (says)}<div
            >
              <dt>{says}</dt>
              <dd class="number">{sayQuantity(value!)}</dd>
            </div>{/each}
          <div class="open">
            <dt>open</dt>
            <dd class="number" class:good={open === '0'} class:stop={open !== '0'}>
              {sayQuantity(open)}
            </dd>
          </div>
        </dl>
        <p class="small soft">
          in {large.roots > 1 ? 'units of each' : large.rootUnit}. {open === '0'
            ? 'It closes.'
            : 'It does not close.'}
        </p>
        {#each causes.slice(0, 6) as cause, index (index)}<p class="small stop">
            {cause}.
          </p>{/each}
        <AndMore shown={6} total={causes.length} />
      </section>
      <ClearedByTime
        marks={large.cleared.marks}
        all={large.cleared.count}
        customers={large.cleared.customers}
        clocks={data.clocks}
        direction={data.direction}
        contentBy={null}
        products={data.products}
        partners={data.partners}
      />
      {#if others.length > 0}<section>
          <h2>Not into</h2>
          <div class="skips">
            {#each others as product (product)}<button
                aria-pressed={data.without.products.includes(product)}
                onclick={() => narrower('without', data.without.products, product)}
                >{product}</button
              >{/each}
          </div>
        </section>{/if}
    </div>
  {/snippet}
  {#snippet tally()}
    <span class="figure"><b>{accounted} %</b> accounted for</span>
    <span class="figure"
      ><b>{partners.length}</b>
      {down
        ? partners.length === 1
          ? 'customer'
          : 'customers'
        : partners.length === 1
          ? 'supplier'
          : 'suppliers'}</span
    >
    <span class="figure"><b>{sayQuantity(String(large.marks))}</b> marks</span>
    <span class="end"
      >{#if data.mayRecall && down}<a
          class="act danger"
          href="/recall/new?{large.roots > 1 ? `set=${data.at.slice(1)}` : `mark=${large.rootId}`}"
          >Recall …</a
        >{/if}
      {#each [['csv', 'CSV'], ['xlsx', 'workbook'], ['json', 'JSON'], ['epcis', 'EPCIS 2.0']] as [format, says] (format)}<a
          class="act quiet"
          href="/api/v1/trace-files/{data.at}?{savedBy(data, format!)}">{says}</a
        >{/each}{#if data.mayProve}<a class="act quiet" href={proofOf(data.at, data)}>proof</a
        >{/if}</span
    >
  {/snippet}
</Working>

<style>
  h1 a {
    color: var(--ink);
    text-decoration: none;
  }
  h1 a:hover {
    text-decoration: underline;
  }
  .head {
    display: flex;
    justify-content: space-between;
    gap: 16px;
    padding: 12px 18px;
    border-bottom: 1px solid var(--line);
  }
  .ways {
    display: flex;
    gap: 8px;
    flex: none;
    align-items: start;
  }
  .why {
    padding: 10px 18px;
    background: var(--brass-pale);
    font-size: 14px;
  }
  .scroll {
    flex: 1;
    overflow: auto;
  }
  .bar {
    width: 22%;
  }
  .bar span {
    display: block;
    height: 12px;
    background: var(--brass);
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
    gap: 24px;
    padding: 18px;
  }
  .ends li {
    padding: 6px 0;
    border-bottom: 1px solid #e6dfd1;
  }
  .aside {
    display: grid;
    gap: 18px;
  }
  dl div {
    display: flex;
    justify-content: space-between;
    padding: 5px 0;
    border-bottom: 1px solid var(--line);
  }
  dd {
    font-size: 16px;
  }
  dl .open {
    border-bottom-width: 2px;
  }
  .open dd {
    font-weight: 600;
  }
  .figure {
    font-size: 14px;
    color: var(--ink-soft);
  }
  .figure b {
    font-size: 23px;
    color: var(--ink);
    margin-right: 3px;
  }
  .end {
    margin-left: auto;
    display: inline-flex;
    gap: 6px;
    align-items: center;
    flex-wrap: wrap;
  }
  .skips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .skips button {
    border: 1px solid var(--line-strong);
    background: var(--panel);
    padding: 2px 8px;
    cursor: pointer;
    font-size: 13px;
  }
  .skips [aria-pressed='true'] {
    text-decoration: line-through;
    color: var(--ink-soft);
    background: var(--paper-deep);
  }
</style>
