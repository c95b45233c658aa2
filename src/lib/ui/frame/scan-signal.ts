import { keptJson } from './kept-json.ts';

/** How a device tells that a scan was taken or not, where its user wishes it. */
export interface ScanSignals {
  sound: boolean;
  vibration: boolean;
}

const KEY = 'earmark scan signals';
const NONE: ScanSignals = { sound: false, vibration: false };

/** What this device was set to. */
export const scanSignals = (storage: Pick<Storage, 'getItem'>): ScanSignals => ({
  ...NONE,
  ...keptJson<Partial<ScanSignals>>(storage, KEY)
});

/** Sets this device. */
export const setScanSignals = (storage: Pick<Storage, 'setItem'>, signals: ScanSignals): void =>
  storage.setItem(KEY, JSON.stringify(signals));

/** High and short for good, low and twice for bad: told apart in a noisy hall, without looking. */
const GOOD = { hertz: 1_760, seconds: 0.09, times: 1, vibration: [60] };
const BAD = { hertz: 220, seconds: 0.18, times: 2, vibration: [120, 80, 120] };

/** Tells that a scan was taken, or that it was not. */
export function signalScan(isGood: boolean): void {
  const { sound, vibration } = scanSignals(localStorage);
  const signal = isGood ? GOOD : BAD;
  if (vibration) navigator.vibrate?.(signal.vibration);
  if (sound) play(signal);
}

let audio: AudioContext | null = null;

function play({ hertz, seconds, times }: typeof GOOD): void {
  audio ??= new AudioContext();
  for (let n = 0; n < times; n++) {
    const tone = audio.createOscillator();
    const loudness = audio.createGain();
    const begins = audio.currentTime + n * seconds * 1.6;
    tone.frequency.value = hertz;
    loudness.gain.setValueAtTime(0.25, begins);
    loudness.gain.exponentialRampToValueAtTime(0.001, begins + seconds);
    tone.connect(loudness).connect(audio.destination);
    tone.start(begins);
    tone.stop(begins + seconds);
  }
}
