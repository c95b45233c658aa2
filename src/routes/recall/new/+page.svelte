<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, TextArea, TextInput } from 'carbon-components-svelte';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count } from '$lib/ui/parts/say.ts';
  import { typedWhole } from '$lib/ui/parts/typed-whole.ts';

  let { data } = $props();
  interface Suspect {
    id: number;
    kind: 'lot' | 'serial' | 'bulk';
    number: string | null;
    product: string;
    state: 'usable' | 'held' | 'rejected';
  }
  let suspects = $state.raw<Suspect[]>(untrack(() => data.first));
  /** Of a large set the first are shown and all are taken. */
  let more = $state.raw<number[]>(untrack(() => data.ids.slice(data.first.length)));
  let mock = $state(untrack(() => data.mock));
  let title = $state(untrack(() => data.title));
  let hazard = $state('');
  let request = $state('');
  let why = $state('');
  let minutes = $state('240');
  let text = $state('');
  let choices = $state.raw<
    { number: string; choices: { product: string; kind: string; id: number }[] }[]
  >([]);
  let said = $state('');
  const unsaved = askUnlessKept(() => [suspects, title, hazard, request, why, minutes]);
  let refused = $state.raw<string[]>([]);
  const key = newKey();

  async function add(): Promise<void> {
    said = '';
    const numbers = text
      .split(/[\s,;]+/)
      .map((one) => one.trim())
      .filter(Boolean);
    if (numbers.length === 0) return;
    const reply = await send<{
      marks: Suspect[];
      open: typeof choices;
      unknown: string[];
      amended: { number: string; now: string }[];
    }>('POST', '/api/v1/trace-roots', { by: 'numbers', numbers });
    if (!reply.ok) {
      said = messagesOf(reply.refusal).join(' ');
      return;
    }
    const { marks, open, unknown, amended } = reply.body;
    suspects = [
      ...suspects,
      ...marks.filter((mark) => !suspects.some((one) => one.id === mark.id))
    ];
    choices = open;
    said = [
      ...(unknown.length > 0
        ? [`${unknown.join(', ')}: no such lot or serial. Check the number.`]
        : []),
      ...amended.map((one) => `${one.number} was amended and is ${one.now} now.`)
    ].join(' ');
    text = unknown.join(' ');
  }
  async function choose(number: string, id: number): Promise<void> {
    const choice = choices
      .find((one) => one.number === number)!
      .choices.find((one) => one.id === id)!;
    choices = choices.filter((one) => one.number !== number);
    suspects = [
      ...suspects,
      { id, kind: choice.kind as Suspect['kind'], number, product: choice.product, state: 'usable' }
    ];
  }
  async function open(): Promise<void> {
    const reply = await send<{ number: string }>(
      'POST',
      '/api/v1/recalls',
      {
        title,
        hazard,
        request,
        mock,
        why,
        ...(mock ? { targetMinutes: typedWhole(minutes) ?? 240 } : {}),
        marks: [...suspects.map((one) => one.id), ...more]
      },
      { 'idempotency-key': key }
    );
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    unsaved.kept();
    await goto(`/recall/${reply.body.number}`);
  }
</script>

<svelte:head><title>{mock ? 'A drill' : 'A recall'} · Earmark</title></svelte:head>
<form
  onsubmit={(event) => {
    event.preventDefault();
    void open();
  }}
>
  <h1>{mock ? 'Start a drill' : 'Open a recall case'}</h1>
  <p class="soft">
    {mock
      ? 'The same as a real one, with a stop-watch; nothing is held and no letter leaves but as a drill.'
      : 'Nothing is held and nobody is written to until you say so on the case.'}
  </p>
  <label class="mock"
    ><input type="checkbox" bind:checked={mock} /> this is a drill{#if mock}, to be done within <input
        class="field number minutes"
        inputmode="numeric"
        bind:value={minutes}
        aria-label="Minutes"
      /> minutes{/if}</label
  >
  <section aria-label="Suspects">
    <h2>
      Suspects <span
        >{count(suspects.length + more.length, 'lot or serial', 'lots and serials')}</span
      >
    </h2>
    <div class="tags">
      {#each suspects as one (one.id)}<span class="one"
          ><Tag
            kind={one.kind}
            number={one.number}
            under={one.product}
            state={one.state}
            href="/marks/{one.id}"
          /><button
            type="button"
            class="act quiet"
            onclick={() => (suspects = suspects.filter((other) => other.id !== one.id))}
            aria-label="Take {one.number} off">✕</button
          ></span
        >{/each}
    </div>
    {#if more.length > 0}<p class="small soft">
        and {count(more.length, 'more', 'more')} of the set
      </p>{/if}
    <div class="add">
      <textarea
        class="field number"
        rows="1"
        bind:value={text}
        placeholder="numbers: ours, a supplier’s, or of before an amendment"
        aria-label="Numbers of suspects"></textarea><button type="button" class="act" onclick={add}
        >Add</button
      >
    </div>
    {#if said}<p class="mind said" role="status">{said}</p>{/if}
    {#each choices as open (open.number)}<p class="mind said">
        Which {open.number}? {#each open.choices as choice (choice.id)}<button
            type="button"
            class="act quiet"
            onclick={() => choose(open.number, choice.id)}
            >the {choice.kind} of {choice.product}</button
          >{/each}
      </p>{/each}
  </section>
  <TextInput
    labelText="What it is about, in a few words"
    bind:value={title}
    maxlength={200}
    required
  />
  <TextArea
    labelText="What is wrong"
    helperText="Goes into the letters to customers."
    bind:value={hazard}
    rows={3}
    maxlength={4000}
    required
  />
  <TextArea
    labelText="What customers are asked to do"
    bind:value={request}
    rows={2}
    maxlength={4000}
  />
  <TextInput labelText="Why these are suspected" bind:value={why} maxlength={1000} />
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="acts">
    <Button
      type="submit"
      kind={mock ? 'primary' : 'danger'}
      disabled={suspects.length + more.length === 0 || !title.trim() || !hazard.trim()}
      >{mock ? 'Start the stop-watch' : 'Open the case'}</Button
    ><Button kind="ghost" href="/recall">Leave it</Button>
  </div>
</form>

<style>
  form {
    padding: 22px 26px 40px;
    display: grid;
    gap: 16px;
    max-width: 820px;
  }
  .mock {
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
  }
  .minutes {
    width: 80px;
    height: 34px;
  }
  input[type='checkbox'] {
    width: 18px;
    height: 18px;
  }
  .tags {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
    gap: 8px;
    margin: 8px 0;
  }
  .one {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    align-items: center;
  }
  .add {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 10px;
  }
  textarea.field {
    min-height: 40px;
    padding-top: 8px;
    field-sizing: content;
    max-height: 200px;
  }
  .said {
    margin-top: 8px;
  }
  .acts {
    display: flex;
    gap: 12px;
  }
</style>
