<!-- A chart on its canvas: drawn where it stands, drawn anew when what it shows changes. Whoever cannot see it is told the same beside it. -->
<script module lang="ts">
  // What our charts are drawn of and the letters they are written in: for all of them, once.
  Chart.register(BarController, BarElement, LineController, LineElement, PointElement);
  Chart.register(CategoryScale, LinearScale, Filler, Tooltip);
  Chart.defaults.font.family = "'IBM Plex Sans', sans-serif";
</script>

<script lang="ts" generics="Kind extends ChartType">
  import { onMount, untrack } from 'svelte';
  import {
    BarController,
    BarElement,
    CategoryScale,
    Chart,
    Filler,
    LinearScale,
    LineController,
    LineElement,
    PointElement,
    Tooltip,
    type ChartData,
    type ChartOptions,
    type ChartType
  } from 'chart.js';

  interface Props {
    type: Kind;
    data: ChartData<Kind>;
    options: ChartOptions<Kind>;
    /** In pixels; as wide as its place. */
    height: number;
  }
  let { type, data, options, height }: Props = $props();
  let canvas: HTMLCanvasElement;
  let chart: Chart<Kind> | undefined;

  onMount(() => {
    const still = { animation: false, responsive: true, maintainAspectRatio: false };
    chart = new Chart(
      canvas,
      untrack(() => ({ type, data, options: { ...still, ...options } }))
    );
    return () => chart?.destroy();
  });
  $effect(() => {
    const next = data;
    if (!chart) return;
    chart.data = next;
    chart.update();
  });
</script>

<div class="canvas" style:height="{height}px">
  <canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>

<style>
  /* The canvas keeps its old width until it is drawn anew: it must not push the page wide meanwhile. */
  .canvas {
    position: relative;
    min-width: 0;
    overflow: hidden;
  }
</style>
