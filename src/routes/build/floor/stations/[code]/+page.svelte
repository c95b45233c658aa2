<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { sound } from '$lib/ui/bench/sound.ts';
  import { keys } from '$lib/ui/frame/keys.svelte.ts';

  let { data } = $props();
  type Mode = 'step' | 'hold' | 'release' | 'rework' | 'back' | 'look';
  interface Result {
    epc: string;
    unit: string | null;
    is: 'moved' | 'looked' | 'refused' | 'again';
    says: string;
    state: string | null;
    station: string | null;
    written: boolean;
  }
  const MODES: [Mode, string, string][] = [
    ['step', 'Move on', 's'],
    ['hold', 'Hold', 'h'],
    ['release', 'Release', 'r'],
    ['rework', 'To rework', 'w'],
    ['back', 'Back from rework', 'b'],
    ['look', 'Only look', 'l']
  ];
  let mode = $state<Mode>('step');
  let reason = $state('');
  let log = $state.raw<(Result & { id: number; at: string })[]>([]);
  let silent = $state('');
  let loud = $state(false);
  let reader = $state.raw(untrack(() => data.reader));
  let place = $state('');
  let said = $state('');
  let count = 0;
  const latest = $derived(log[0]);
  const station = untrack(() => data.station.code);
  const numberOf = (epc: string): string =>
    data.units.find((unit) => unit.epc === epc)?.number ?? 'unknown tag';

  /** Asks the reader what lies on it; what it has read before it does not read again. */
  let reading = false;
  async function read(): Promise<void> {
    if (reading || !data.mayFloor) return;
    reading = true;
    const reply = await send<{ results: Result[] }>('POST', '/api/v1/station-reads', {
      station,
      mode,
      ...(reason.trim() ? { reason } : {})
    });
    reading = false;
    silent = reply.ok ? '' : messagesOf(reply.refusal).join(' ');
    if (!reply.ok || reply.body.results.length === 0) return;
    const at = new Date().toISOString();
    log = [...reply.body.results.map((result) => ({ ...result, id: ++count, at })), ...log].slice(
      0,
      60
    );
    if (loud)
      sound(reply.body.results.some((result) => result.is === 'refused') ? 'refused' : 'taken');
    if (reply.body.results.some((result) => result.is === 'moved')) void refresh();
    const now = await send<typeof reader>(
      'GET',
      `/api/v1/devices/tag-reader?station=${encodeURIComponent(station)}`
    );
    if (now.ok) reader = now.body;
  }
  async function change(body: object): Promise<void> {
    const reply = await send<typeof reader>('PUT', '/api/v1/devices/tag-reader', {
      station,
      ...body
    });
    said = reply.ok ? '' : messagesOf(reply.refusal).join(' ');
    if (reply.ok) {
      reader = reply.body;
      void read();
    }
  }
  onMount(() => {
    const timer = setInterval(() => void read(), 1000);
    keys.screen = MODES.map(([value, says, key]) => ({ key, says, act: () => (mode = value) }));
    return () => {
      clearInterval(timer);
      keys.screen = [];
    };
  });
</script>

<svelte:head><title>{data.station.name} · The floor · Earmark</title></svelte:head>
<div class="screen">
  <div class="main">
    <div class="head">
      <h1>{data.station.name}</h1>
      <nav aria-label="Stations">
        {#each data.stations as one (one.code)}<a
            href="/build/floor/stations/{encodeURIComponent(one.code)}"
            data-sveltekit-reload
            aria-current={one.code === data.station.code ? 'page' : undefined}>{one.name}</a
          >{/each}<a href="/build/floor">The floor</a>
      </nav>
    </div>
    <div class="modes" role="radiogroup" aria-label="What a read does">
      {#each MODES as [value, says, key] (value)}<button
          role="radio"
          aria-checked={mode === value}
          class:on={mode === value}
          class:aside={mode === value && value !== 'step' && value !== 'look'}
          onclick={() => (mode = value)}>{says} <kbd aria-hidden="true">{key}</kbd></button
        >{/each}
    </div>
    {#if mode === 'hold' || mode === 'rework'}<label class="stack why"
        >why, kept with every read<input
          class="field"
          bind:value={reason}
          maxlength="2000"
          placeholder={mode === 'hold' ? 'such as: seam doubtful' : 'such as: valve to be changed'}
        /></label
      >{/if}
    {#if !data.mayFloor}<p class="refused">
        Your role looks at the floor; it does not read tags.
      </p>{/if}
    <p
      class="latest {silent ? 'refused' : (latest?.is ?? 'none')}"
      role={silent || latest?.is === 'refused' ? 'alert' : 'status'}
    >
      {silent ||
        latest?.says ||
        'Hold a tag at the reader.'}{#if latest?.is === 'moved' && !latest.written && !silent}&nbsp;The
        tag itself was not written; the step is kept, and its next read writes it.{/if}
    </p>
    <ol class="log">
      {#each log.slice(1, 14) as one (one.id)}<li class={one.is}>
          <b class="number">{one.unit ?? '–'}</b> <span>{one.says}</span>
        </li>{/each}
    </ol>
    <label class="loud"><input type="checkbox" bind:checked={loud} /> sound</label>
  </div>
  <aside aria-label="Simulated reader">
    <h2>Simulated reader</h2>
    <p class="plug">
      <button
        class="act"
        class:danger={reader.plugged}
        onclick={() => change({ plugged: !reader.plugged })}
        >{reader.plugged ? 'Unplug it' : 'Plug it in'}</button
      ><span class="small" class:good={reader.plugged} class:stop={!reader.plugged}
        >{reader.plugged ? '● on' : '○ no answer'}</span
      >
    </p>
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void change({ place }).then(() => (place = ''));
      }}
    >
      <label class="stack"
        >put a unit’s tag on it<input
          class="field number"
          list="units"
          bind:value={place}
          autocomplete="off"
        /></label
      ><button class="act" disabled={place.trim() === ''}>Put on</button>
    </form>
    <datalist id="units"
      >{#each data.units as unit (unit.number)}<option value={unit.number}
          >{unit.state ? `${unit.state} at ${unit.at}` : 'not begun'}</option
        >{/each}</datalist
    >
    <button class="act quiet foreign" onclick={() => change({ epc: '3074257BF7194E4000001A85' })}
      >Put a foreign tag on</button
    >
    {#if said}<p class="stop small" role="alert">{said}</p>{/if}
    <ul>
      {#each reader.tags as tag (tag.epc)}
        <li>
          <b class="number">{numberOf(tag.epc)}</b><span class="number small epc">{tag.epc}</span
          ><span class="small soft">memory: {tag.memory || 'empty'}</span>
          <span class="acts"
            ><button class="act quiet" onclick={() => change({ take: tag.epc })}>Take away</button
            ><button class="act quiet" onclick={() => change({ garble: tag.epc })}>Garble</button
            ></span
          >
        </li>
      {:else}<li class="soft">No tag lies on it.</li>{/each}
    </ul>
  </aside>
</div>

<style>
  .screen {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 300px;
    height: 100%;
  }
  .main {
    padding: 16px 24px;
    display: grid;
    gap: 14px;
    align-content: start;
  }
  aside {
    border-left: 1px solid var(--line);
    background: var(--paper);
    padding: 16px;
    display: grid;
    gap: 10px;
    align-content: start;
    overflow: auto;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 6px 24px;
  }
  .head h1 {
    font-size: 28px;
  }
  nav {
    display: flex;
    flex-wrap: wrap;
    gap: 14px;
    font-size: 14px;
  }
  nav a[aria-current] {
    color: var(--ink);
    font-weight: 600;
    text-decoration: none;
  }
  .modes {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .modes button {
    min-height: 52px;
    padding: 0 10px;
    font-size: 16px;
    font-weight: 600;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    cursor: pointer;
  }
  .modes .on {
    background: var(--ink);
    color: #fff;
  }
  .modes .aside {
    background: var(--rust);
    border-color: var(--rust);
  }
  .modes .on kbd {
    color: #fff;
    border-color: #fff;
  }
  .latest {
    font-size: 30px;
    line-height: 1.25;
    font-weight: 600;
    padding: 26px 24px;
    min-height: 130px;
    display: flex;
    align-items: center;
    background: var(--slate-pale);
  }
  .latest.moved {
    background: var(--sea);
    color: #fff;
  }
  .latest.refused {
    background: var(--rust);
    color: #fff;
  }
  .latest.again {
    background: var(--amber);
  }
  .latest.none {
    font-weight: 400;
    color: var(--ink-soft);
  }
  .log li {
    display: grid;
    grid-template-columns: 150px minmax(0, 1fr);
    gap: 12px;
    padding: 7px 4px;
    border-bottom: 1px solid #ebe5da;
    font-size: 16px;
  }
  .log .refused {
    background: none;
    color: var(--rust);
    margin: 0;
    padding: 7px 4px;
  }
  .loud {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 40px;
  }
  .why .field {
    width: 100%;
    max-width: 520px;
  }
  .plug {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  form {
    display: flex;
    gap: 8px;
    align-items: end;
  }
  form label {
    flex: 1;
    min-width: 0;
  }
  form .field {
    width: 100%;
  }
  .foreign {
    justify-self: start;
  }
  aside li {
    display: grid;
    gap: 2px;
    padding: 8px 0;
    border-top: 1px solid var(--line);
  }
  .epc {
    overflow-wrap: anywhere;
  }
  .acts {
    display: flex;
    gap: 4px;
  }
  @media (max-width: 800px) {
    .screen {
      grid-template-columns: minmax(0, 1fr);
      height: auto;
    }
    aside {
      border-left: 0;
      border-top: 1px solid var(--line);
    }
    .latest {
      font-size: 22px;
    }
    .main {
      padding: 12px;
    }
  }
</style>
