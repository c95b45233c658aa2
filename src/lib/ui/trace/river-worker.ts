// Lays a river out beside the page, so that a trace of ten thousand marks does not freeze it.
import { layOutRiver, type RiverMaterial } from '../../core/trace/river.ts';

self.onmessage = ({ data }: MessageEvent<{ turn: number; material: RiverMaterial }>) => {
  self.postMessage({ turn: data.turn, river: layOutRiver(data.material) });
};
