<!-- What became of what each customer had, as bars to 100 %: the mean over their lots and serials. -->
<script lang="ts">
  import type { ChartOptions } from 'chart.js';
  import ChartCanvas from '../parts/ChartCanvas.svelte';

  interface Props {
    /** Shares 0…1 that make one. */
    customers: readonly {
      name: string;
      returned: number;
      reported: number;
      destroyed: number;
      writtenOff: number;
      open: number;
    }[];
  }
  let { customers }: Props = $props();
  const SERIES = [
    ['returned', '#1F6B57', 'returned'],
    ['reported', '#8FBBAC', 'said to be returned'],
    ['destroyed', '#5B6B7A', 'destroyed'],
    ['writtenOff', '#D9A53A', 'written off'],
    ['open', '#E9C9C2', 'open']
  ] as const;
  const share = (one: Props['customers'][number], key: (typeof SERIES)[number][0]) =>
    one[key] * 100;
  const content = $derived({
    labels: customers.map((one) => one.name),
    datasets: SERIES.map(([key, backgroundColor, label]) => ({
      label,
      backgroundColor,
      data: customers.map((one) => share(one, key)),
      barThickness: 14
    }))
  });
  const options: ChartOptions<'bar'> = {
    indexAxis: 'y',

    plugins: {
      tooltip: {
        callbacks: {
          label: (item) => `${item.dataset.label} ${Math.round(Number(item.raw) * 10) / 10} %`
        }
      }
    },
    scales: {
      x: {
        stacked: true,
        min: 0,
        max: 100,
        ticks: { color: '#55626A', callback: (value) => `${value} %` },
        grid: { color: '#ddd5c7' }
      },
      y: {
        stacked: true,
        ticks: {
          color: '#1D2930',
          callback(value) {
            const name = this.getLabelForValue(Number(value));
            return name.length > 15 ? `${name.slice(0, 14)}…` : name;
          }
        },
        grid: { display: false }
      }
    }
  };
</script>

<ChartCanvas type="bar" data={content} {options} height={60 + customers.length * 26} />
<p class="key small">
  {#each SERIES as [key, colour, label] (key)}<span><i style:background={colour}></i>{label}</span
    >{/each}
</p>

<style>
  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
  }
  i {
    display: inline-block;
    width: 10px;
    height: 10px;
    margin-right: 5px;
  }
</style>
