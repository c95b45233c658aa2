<!--
  A bill drawn as the tree it is: every part under what it goes into, with what is on hand of it
  beside what is asked. What is short is asked of all its places together, so it is said at each.
-->
<script lang="ts">
  import { branchesOf, type Branch, type TreeLine, type TreeNeed } from './bill-tree.ts';
  import { sayQuantity } from '../parts/say.ts';

  interface Props {
    lines: readonly TreeLine[];
    needs: readonly TreeNeed[];
    /** Most lines that are drawn. */
    most?: number;
  }
  let { lines, needs, most = 300 }: Props = $props();
  const branches = $derived(branchesOf(lines.slice(0, most)));
  const needOf = $derived(new Map(needs.map((need) => [need.product, need])));
  /** Of what is asked, how much is there: 0 to 100. */
  const covered = ({ planned, onHand }: TreeNeed): number =>
    Number(planned) > 0 ? Math.min(100, (100 * Number(onHand)) / Number(planned)) : 100;
</script>

{#snippet grown(list: Branch[])}
  <ul>
    {#each list as { line, under }, index (`${line.product} ${index}`)}
      {@const need = needOf.get(line.product)}
      <li>
        <div class="part">
          <a class="tag number" href="/setup/products/{encodeURIComponent(line.product)}"
            >{line.product}</a
          >
          <span class="name">{line.name}</span>
          <span class="asked"
            ><span class="number">{sayQuantity(line.planned)}</span>
            <span class="small soft">{line.unit}</span></span
          >
          {#if need}<span class="stock" class:short={need.short !== '0'}>
              <span class="bar" aria-hidden="true"
                ><span style:width="{covered(need)}%"></span></span
              >
              <span class="small said"
                >{#if need.short !== '0'}<b class="stop"
                    ><span class="number">{sayQuantity(need.short)}</span>
                    {need.unit}
                    {need.made ? 'to make' : 'short'}</b
                  >{/if}
                <span
                  ><span class="number">{sayQuantity(need.onHand)}</span>
                  {need.unit} usable</span
                ></span
              >
            </span>{/if}
        </div>
        {#if under.length > 0}{@render grown(under)}{/if}
      </li>
    {/each}
  </ul>
{/snippet}

<div class="tree">{@render grown(branches)}</div>
{#if lines.length > most}<p class="small soft">
    The first {most} of {sayQuantity(String(lines.length))} lines are drawn; the bill has them all.
  </p>{/if}

<style>
  .tree {
    overflow-x: auto;
  }
  ul {
    display: grid;
  }
  ul ul {
    margin-left: 14px;
  }
  li {
    position: relative;
    padding-left: 22px;
  }
  /* A stem down from what it goes into, and a twig to the part. */
  li::before {
    content: '';
    position: absolute;
    left: 0;
    top: 0;
    bottom: 0;
    border-left: 2px solid var(--line-strong);
  }
  li:last-child::before {
    bottom: auto;
    height: 22px;
  }
  li::after {
    content: '';
    position: absolute;
    left: 0;
    top: 20px;
    width: 18px;
    border-top: 2px solid var(--line-strong);
  }
  .part {
    display: grid;
    grid-template-columns: minmax(110px, auto) minmax(120px, 1fr) 110px minmax(230px, 300px);
    gap: 12px;
    align-items: center;
    min-height: 42px;
    border-bottom: 1px solid #ebe5da;
  }
  .tag {
    font-weight: 600;
    color: var(--ink);
    text-decoration-color: var(--line-strong);
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .asked {
    text-align: right;
  }
  .stock {
    display: grid;
    gap: 2px;
  }
  .said {
    display: flex;
    gap: 12px;
  }
  .bar {
    height: 6px;
    background: var(--paper-deep);
    border-radius: 3px;
    overflow: hidden;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--sea);
  }
  .short .bar {
    background: var(--rust-pale);
  }
  .short .bar span {
    background: var(--rust);
  }
  @media (max-width: 800px) {
    .part {
      grid-template-columns: 1fr auto;
      gap: 2px 10px;
      padding: 6px 0;
    }
    .stock {
      grid-column: 1 / -1;
    }
  }
</style>
