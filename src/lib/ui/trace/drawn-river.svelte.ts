import { layOutRiver, type River, type RiverMaterial } from '../../core/trace/river.ts';

/** Up to so many marks a river is laid out at once, on the server too; beyond, in a worker. */
const AT_ONCE = 600;

/**
 * A river that is laid out as its material changes. While the next is laid out the last one stays
 * in sight, as long as it is of the same trace.
 */
export class DrawnRiver {
  current = $state.raw<River | null>(null);
  working = $state(false);
  /** The marks of the trace that `current` is of. */
  private of: RiverMaterial['marks'] | null = null;
  private asked: RiverMaterial['marks'] | null = null;
  private worker: Worker | null = null;
  private turn = 0;

  /** Lays out what is small; answers null where it is left to the worker. */
  static small(material: RiverMaterial): River | null {
    return material.marks.length <= AT_ONCE ? layOutRiver(material) : null;
  }

  /**
   * What can be shown of a material now; null where nothing is ready: what is drawn of another
   * trace names marks that this one does not have.
   */
  shown(material: RiverMaterial): River | null {
    return this.current && this.of === material.marks ? this.current : DrawnRiver.small(material);
  }

  /** In the browser only. */
  draw(material: RiverMaterial): void {
    const turn = ++this.turn;
    const small = DrawnRiver.small(material);
    this.asked = material.marks;
    if (small) {
      this.of = material.marks;
      this.current = small;
      this.working = false;
      return;
    }
    this.working = true;
    this.worker ??= this.start();
    this.worker.postMessage({ turn, material });
  }

  private start(): Worker {
    const worker = new Worker(new URL('./river-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ turn: number; river: River }>) => {
      if (data.turn === this.turn) {
        this.of = this.asked;
        this.current = data.river;
        this.working = false;
      }
    };
    return worker;
  }

  stop(): void {
    this.worker?.terminate();
  }
}
