<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { page } from '$app/state';
  import { plainPlan, planFaults, wayOf, type MarkingPlan } from '$lib/core/catalogue/plan.ts';
  import { SAY_IDENTITY } from '$lib/core/catalogue/identity-change.ts';
  import type { Refusal } from '$lib/ui/frame/api.ts';
  import { putRecord } from '$lib/ui/frame/put-record.ts';
  import { askBeforeLeaving } from '$lib/ui/frame/ask-before-leaving.ts';
  import { otherErrors } from '$lib/ui/parts/refusal.ts';
  import PlanSentences from '$lib/ui/catalogue/PlanSentences.svelte';
  import TryPlan from '$lib/ui/catalogue/TryPlan.svelte';
  import { count, sayInstant } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  interface Form {
    code: string;
    name: string;
    plan: MarkingPlan;
    isNew: boolean;
    /** Its entity tag as it was opened. */
    tag: string;
  }
  const formOf = (chosen: typeof data.chosen): Form | null =>
    chosen && {
      code: chosen.code,
      name: chosen.name,
      plan: chosen.plan,
      isNew: false,
      tag: chosen.tag
    };
  let form = $state.raw<Form | null>(untrack(() => formOf(data.chosen)));
  let refusal = $state.raw<Refusal | null>(null);
  let says = $state.raw<string[]>([]);
  let kept = $state(0);
  const shown = $derived(data.earlier ? data.earlier.plan : form?.plan);
  const faults = $derived(form ? planFaults(form.plan) : []);
  const versions = $derived(data.plans.find((plan) => plan.code === form?.code)?.versions ?? []);

  /** The form as it was opened or kept, to tell what would be lost. */
  let opened = untrack(() => JSON.stringify(form));
  const isDirty = (): boolean => data.mayEdit && JSON.stringify(form) !== opened;
  askBeforeLeaving(isDirty);

  async function open(code: string | null): Promise<void> {
    const before = page.url.href;
    refusal = null;
    says = [];
    kept = 0;
    await goto(code === null ? '/setup/plans' : `/setup/plans?plan=${encodeURIComponent(code)}`, {
      noScroll: true
    });
    const stayed = page.url.href === before && isDirty();
    if (stayed) return;
    form =
      code === null
        ? { code: '', name: '', plan: plainPlan('lot'), isNew: true, tag: '' }
        : formOf(data.chosen);
    opened = JSON.stringify(form);
  }
  async function save(): Promise<void> {
    if (!form) return;
    const reply = await putRecord<{ version: number; says: string[] }>(
      'marking-plans',
      form.code,
      { name: form.name, ...form.plan },
      form.isNew ? null : form.tag
    );
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return await seeWhatItIs(reply.refusal.status);
    kept = reply.body.version;
    says = reply.body.says;
    opened = JSON.stringify(form);
    const code = form.code.trim();
    await refresh();
    if (form.isNew) await goto(`/setup/plans?plan=${encodeURIComponent(code)}`);
    form = { ...form, isNew: false, tag: data.chosen?.tag ?? '' };
    opened = JSON.stringify(form);
  }
  /** Where somebody else changed it: its versions show what it is now, and keeping again follows it. */
  async function seeWhatItIs(status: number): Promise<void> {
    if (status !== 412 || !form || form.isNew) return;
    await refresh();
    form = { ...form, tag: data.chosen?.tag ?? '' };
  }
</script>

<svelte:head><title>Marking plans · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Marking plans</h1>
    {#if data.mayEdit}<button class="act main" onclick={() => open(null)}>New plan</button>{/if}
  </div>
  <div class="columns">
    <nav aria-label="Plans">
      <ul data-list>
        {#each data.plans as plan (plan.code)}
          <li>
            <a
              href="/setup/plans?plan={encodeURIComponent(plan.code)}"
              aria-current={plan.code === form?.code ? 'true' : undefined}
              onclick={(event) => {
                event.preventDefault();
                void open(plan.code);
              }}
            >
              <b class="number">{plan.code}</b>
              <span class="small soft">version {plan.version}</span><br />{plan.name}
              <span class="small soft"
                >{SAY_IDENTITY[plan.plan.identity]}{wayOf(plan.plan) === 'only when it is shipped'
                  ? ', at shipping'
                  : ''} · {count(plan.products.length, 'product')}</span
              >
            </a>
          </li>
        {:else}<li class="soft none">
            No plan yet. A product without one is marked by the plain plan: its number at every
            step, nothing else asked.
          </li>{/each}
      </ul>
    </nav>
    {#if form && shown}
      <form
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {#each otherErrors(refusal, []) as message, index (index)}<p class="refused" role="alert">
            {message}
          </p>{/each}
        {#if kept > 0}<div class="kept" role="status">
            <p>✓ Kept as version {kept}.</p>
            {#each says as sentence (sentence)}<p class="small">
                {sentence}
              </p>{/each}{#if says.some((sentence) => sentence.includes('without number') || sentence.includes('kept by lot'))}<p
              >
                <a href="/">Give the numbers from Today</a>
              </p>{/if}
          </div>{/if}
        {#if data.earlier}<p class="mind">
            This is version {data.earlier.version} as it was.
            <a href="/setup/plans?plan={encodeURIComponent(form.code)}">The present one</a>
          </p>{/if}
        <div class="row">
          <label class="stack"
            >Code<input
              class="field number"
              value={form.code}
              disabled={!form.isNew}
              required
              maxlength="60"
              oninput={(event) => (form = { ...form!, code: event.currentTarget.value })}
            /></label
          >
          <label class="stack wide"
            >Name<input
              class="field"
              value={form.name}
              disabled={!data.mayEdit}
              required
              maxlength="200"
              oninput={(event) => (form = { ...form!, name: event.currentTarget.value })}
            /></label
          >
        </div>
        <PlanSentences
          plan={shown}
          schemes={data.schemes}
          disabled={!data.mayEdit || data.earlier !== null}
          onchange={(plan) => {
            form = { ...form!, plan };
            kept = 0;
          }}
        />
        {#if data.mayEdit && !data.earlier}<div class="acts">
            <button
              class="act main"
              disabled={faults.length > 0 || form.code.trim() === '' || form.name.trim() === ''}
              >Keep {form.isNew
                ? form.code || 'plan'
                : `as version ${(versions[0]?.version ?? 0) + 1}`}</button
            ><span class="small soft">What is booked already keeps the version of its day.</span>
          </div>{/if}
        {#if versions.length > 1}<p class="small soft">
            Versions: {#each versions as version (version.version)}<a
                href="/setup/plans?plan={encodeURIComponent(form.code)}&version={version.version}"
                >{version.version}</a
              >
              of {sayInstant(version.at)} by {version.who};
            {/each}
          </p>{/if}
      </form>
      <TryPlan plan={shown} today={data.today} />
    {:else}<p class="soft pick">
        Choose a plan to read it, or begin a new one. It reads as sentences; every underlined word
        can be changed where it stands.
      </p>{/if}
  </div>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: 216px minmax(0, 1fr) 288px;
    gap: 26px;
    align-items: start;
  }
  nav a {
    display: block;
    padding: 9px 12px;
    border-bottom: 1px solid var(--line);
    border-left: 3px solid transparent;
    color: var(--ink);
    text-decoration: none;
    font-size: 14.5px;
  }
  nav a[aria-current] {
    border-left-color: var(--brass);
    background: var(--paper);
  }
  nav a:hover {
    background: var(--paper);
  }
  .none {
    padding: 8px 12px;
    font-size: 14px;
  }
  form {
    display: grid;
    gap: 16px;
  }
  .row {
    display: flex;
    gap: 14px;
    flex-wrap: wrap;
  }
  .wide {
    flex: 1;
    min-width: 180px;
  }
  .acts {
    display: flex;
    gap: 14px;
    align-items: center;
    flex-wrap: wrap;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
  }
  .kept .small {
    font-weight: 400;
    color: var(--ink);
  }
  .pick {
    grid-column: 2 / 4;
    padding: 8px 0;
  }
  @media (max-width: 1150px) {
    .columns {
      grid-template-columns: 190px minmax(0, 1fr);
    }
    .columns :global(aside) {
      grid-column: 2;
    }
    .pick {
      grid-column: 2;
    }
  }
  @media (max-width: 760px) {
    .columns {
      grid-template-columns: 1fr;
    }
    .columns :global(aside),
    .pick {
      grid-column: 1;
    }
  }
</style>
