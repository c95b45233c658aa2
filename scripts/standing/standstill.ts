/** Looked so often; a machine at work comes round a little late, one that stands still by seconds. */
const EACH_MS = 250;
const LATE_MS = 2_000;

export interface Standstills {
  /** Seconds of the longest standstill of this machine since a moment; 0 where there was none. */
  longestSince: (moment: number) => number;
  end: () => void;
}

/**
 * Watches whether the machine itself stands still, as a virtual one does that is moved or kept: then
 * nobody is answered, whatever was broken, and afterwards its clock is put forward.
 */
export function watchStandstills(): Standstills {
  const seen: { until: number; seconds: number }[] = [];
  let last = Date.now();
  const timer = setInterval(() => {
    const now = Date.now();
    const late = now - last - EACH_MS;
    if (late > LATE_MS) seen.push({ until: now, seconds: late / 1000 });
    last = now;
  }, EACH_MS);
  return {
    longestSince: (moment) =>
      Math.max(0, ...seen.filter(({ until }) => until >= moment).map(({ seconds }) => seconds)),
    end: () => clearInterval(timer)
  };
}
