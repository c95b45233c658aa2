<!-- The way into an empty Earmark: what is done, what comes next, and a template for each table. -->
<script lang="ts">
  import { count } from '../parts/say.ts';

  interface Step {
    name: string;
    says: string;
    done: number;
    href: string;
    table: string | null;
    mine: boolean;
  }
  let { steps }: { steps: readonly Step[] } = $props();
  const next = $derived(steps.findIndex((step) => step.done === 0));
</script>

<section aria-labelledby="first-run">
  <h2 id="first-run">Nothing is booked yet: set Earmark up</h2>
  <p class="soft">
    Step by step here, or all of it <a href="/setup/files">from a folder of spreadsheets</a>.
  </p>
  <ol>
    {#each steps as step, index (step.name)}
      <li class:done={step.done > 0} class:next={index === next}>
        <span class="sign number" aria-hidden="true">{step.done > 0 ? '✓' : index + 1}</span>
        <span
          ><b>{step.name}</b>
          <span class="soft small"
            >{step.says}{#if step.done > 0}&nbsp;· {step.table
                ? count(step.done, 'there', 'there')
                : 'done'}{/if}</span
          ></span
        >
        <span class="acts">
          {#if step.mine}<a class={['act', index === next && 'main']} href={step.href}
              >{step.done > 0 ? 'Look' : 'Begin'}</a
            >{:else}<span class="soft small">a coordinator or administrator does this</span>{/if}
          {#if step.table}<a
              class="small"
              href="/api/v1/imports/{step.table}?format=xlsx"
              download
              aria-label="Template for {step.name}">template</a
            >{/if}
        </span>
      </li>
    {/each}
  </ol>
</section>

<style>
  section {
    border: 1px solid var(--line);
    border-top: 3px solid var(--brass);
    background: var(--paper);
    padding: 14px 18px 8px;
    display: grid;
    gap: 6px;
  }
  h2 {
    font-size: 18px;
  }
  li {
    display: grid;
    grid-template-columns: 30px minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    padding: 8px 0;
    border-top: 1px solid var(--line);
  }
  .sign {
    text-align: center;
    color: var(--ink-soft);
  }
  .done .sign {
    color: var(--sea);
    font-weight: 700;
  }
  .next b {
    color: var(--brass);
  }
  .acts {
    display: flex;
    gap: 14px;
    align-items: center;
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 30px minmax(0, 1fr);
    }
    .acts {
      grid-column: 2;
    }
  }
</style>
