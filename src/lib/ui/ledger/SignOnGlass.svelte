<!-- Who takes goods over signs with a finger or a pen; what is drawn is kept with the event. -->
<script lang="ts">
  import { refresh } from '../frame/refresh.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { sayInstant } from '../parts/say.ts';

  interface Props {
    event: number;
    signed: { name: string; at: string; takenBy: string } | null;
    maySign: boolean;
  }
  let { event, signed, maySign }: Props = $props();
  let open = $state(false);
  let name = $state('');
  let drawn = $state(false);
  let drawing = false;
  let busy = $state(false);
  let refused = $state.raw<string[]>([]);
  let canvas = $state<HTMLCanvasElement>();
  const WIDTH = 640,
    HEIGHT = 200;

  function at({ offsetX, offsetY }: PointerEvent): [number, number] {
    const { clientWidth, clientHeight } = canvas!;
    return [(offsetX / clientWidth) * WIDTH, (offsetY / clientHeight) * HEIGHT];
  }
  function begin(pointer: PointerEvent): void {
    canvas!.setPointerCapture(pointer.pointerId);
    const ink = canvas!.getContext('2d')!;
    Object.assign(ink, {
      lineWidth: 3,
      lineCap: 'round',
      lineJoin: 'round',
      strokeStyle: '#1d2930'
    });
    ink.beginPath();
    ink.moveTo(...at(pointer));
    drawing = true;
  }
  function draw(pointer: PointerEvent): void {
    if (!drawing) return;
    const ink = canvas!.getContext('2d')!;
    ink.lineTo(...at(pointer));
    ink.stroke();
    drawn = true;
  }
  function clear(): void {
    canvas!.getContext('2d')!.clearRect(0, 0, WIDTH, HEIGHT);
    drawn = false;
  }
  async function keep(): Promise<void> {
    busy = true;
    const png = canvas!.toDataURL('image/png').split(',')[1];
    const body = { name: name.trim(), png };
    const reply = await send<object>('PUT', `/api/v1/events/${event}/signature`, body);
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await refresh();
  }
</script>

{#if signed}
  <figure>
    <img src="/api/v1/events/{event}/signature" alt="Signature of {signed.name}" />
    <figcaption>
      signed by <b>{signed.name}</b>, {sayInstant(signed.at)}
      <span class="soft small">on {signed.takenBy}’s screen</span>
    </figcaption>
  </figure>
{:else if maySign}
  {#if open}
    <form
      onsubmit={(submitted) => {
        submitted.preventDefault();
        void keep();
      }}
    >
      {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
      <label class="stack"
        >who signs<input class="field" bind:value={name} maxlength="200" required /></label
      >
      <canvas
        bind:this={canvas}
        width={WIDTH}
        height={HEIGHT}
        aria-label="Sign here"
        onpointerdown={begin}
        onpointermove={draw}
        onpointerup={() => (drawing = false)}
        onpointercancel={() => (drawing = false)}
      ></canvas>
      <div class="acts">
        <button class="act main" disabled={!drawn || name.trim() === '' || busy}>Keep it</button>
        <button type="button" class="act" onclick={clear}>Clear</button>
        <button type="button" class="act quiet" onclick={() => (open = false)}>Leave it</button>
      </div>
    </form>
  {:else}<button class="act" onclick={() => (open = true)}>Sign on glass …</button>{/if}
{/if}

<style>
  figure {
    margin: 0;
  }
  img {
    max-width: min(320px, 100%);
    border-bottom: 1px solid var(--ink-soft);
    display: block;
  }
  form {
    display: grid;
    gap: 10px;
    max-width: 640px;
  }
  canvas {
    width: 100%;
    aspect-ratio: 640 / 200;
    border: 1px solid var(--line-strong);
    background: #fff;
    touch-action: none;
    cursor: crosshair;
  }
  .acts {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
  }
</style>
