import { layOutRiver, type River, type RiverMaterial } from '../../core/genealogy/river';

/** Up to so many marks a river is laid out at once, on the server too; beyond, in a worker. */
const AT_ONCE = 600;

/** A river that is laid out as its material changes; the last one stays in sight until the next is ready. */
export class DrawnRiver {
  current = $state.raw<River | null>(null);
  working = $state(false);
  private worker: Worker | null = null;
  private turn = 0;

  /** Lays out what is small; answers null where it is left to the worker. */
  static small(material: RiverMaterial): River | null { return material.marks.length <= AT_ONCE ? layOutRiver(material) : null; }

  /** In the browser only. */
  draw(material: RiverMaterial): void {
    const turn = ++this.turn;
    const small = DrawnRiver.small(material);
    if (small) { this.current = small; this.working = false; return; }
    this.working = true;
    this.worker ??= this.start();
    this.worker.postMessage({ turn, material });
  }

  private start(): Worker {
    const worker = new Worker(new URL('./river-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ turn: number; river: River }>) => { if (data.turn === this.turn) { this.current = data.river; this.working = false; } };
    return worker;
  }

  stop(): void { this.worker?.terminate(); }
}
