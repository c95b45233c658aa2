interface Rounds {
  everyMs: number;
  work: () => Promise<unknown>;
  /** Said where a round fails; the next comes all the same. */
  sorry: string;
}

/**
 * Works now and every so often for as long as the process runs, one round at a time: where one takes
 * longer, those due meanwhile are left out.
 */
export function startRounds({ everyMs, work, sorry }: Rounds): void {
  let busy = false;
  const round = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    try {
      await work();
    } catch (error) {
      console.error(sorry, error);
    } finally {
      busy = false;
    }
  };
  setInterval(() => void round(), everyMs).unref();
  void round();
}
