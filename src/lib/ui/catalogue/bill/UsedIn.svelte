<!-- Every product that something goes into, directly or through others. -->
<script lang="ts">
  import { sayQuantity } from '../../parts/say.ts';

  interface Use {
    product: string;
    name: string;
    quantity: string;
    unit: string;
    as: 'part' | 'alternate';
    level: number;
    path: readonly string[];
  }
  interface Props {
    code: string;
    uses: readonly Use[];
    /** Whether there are more than are listed. */
    more: boolean;
  }
  let { code, uses, more }: Props = $props();
  const sayUse = ({ level, quantity, unit, as, path }: Use): string =>
    level === 1
      ? `${sayQuantity(quantity)} ${unit}${as === 'alternate' ? ' as an alternate' : ''}`
      : `through ${path.slice(1).join(', ')}`;
</script>

<section aria-label="Where it is used">
  <h2>Where {code} is used</h2>
  <ul>
    {#each uses as use, index (index)}<li style:padding-left="{(use.level - 1) * 18}px">
        <a class="number" href="/setup/products/{encodeURIComponent(use.product)}/bill"
          >{use.product}</a
        >
        {use.name} <span class="small soft">{sayUse(use)}</span>
      </li>{:else}<li class="soft">In no other product.</li>{/each}
  </ul>
  {#if more}<p class="small soft">The first {uses.length} are listed; there are more.</p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  li {
    padding: 4px 0;
  }
</style>
