<!-- A job on the board: whose, what is wrong, and until when it was promised. -->
<script lang="ts">
  import type { JobSummary } from '../../core/service/job-summary.ts';
  import { sayDistance } from '../../core/calendar/say-day.ts';

  let { job, today }: { job: JobSummary; today: string } = $props();
  const late = $derived(job.promised !== null && job.promised < today);
</script>

<a href="/service/{encodeURIComponent(job.number)}" class:late>
  <span class="top"
    ><b class="number">{job.serial}</b>
    <span class="small due"
      >{job.promised === null ? 'no promise' : sayDistance(job.promised, today)}</span
    ></span
  >
  <span class="small">{job.customerName}</span>
  <span class="fault small">{job.fault}</span>
  <span class="soft small"
    ><span class="number">{job.number}</span> · {job.product}{job.underWarranty
      ? ' · warranty'
      : ''}</span
  >
</a>

<style>
  a {
    display: grid;
    gap: 3px;
    padding: 9px 10px 9px 12px;
    background: #fff;
    border: 1px solid var(--line);
    border-left: 3px solid var(--brass);
    color: var(--ink);
    text-decoration: none;
  }
  a:hover {
    background: var(--paper);
  }
  .top {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    align-items: baseline;
  }
  .late {
    border-left-color: var(--rust);
  }
  .late .due {
    color: var(--rust);
    font-weight: 600;
  }
  .fault {
    display: -webkit-box;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    -webkit-box-orient: vertical;
    overflow: hidden;
    color: var(--ink-soft);
  }
</style>
