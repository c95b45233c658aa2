let audio: AudioContext | undefined;

/**
 * A short tone: high for a part taken, two low ones for a refusal. Silent where the browser lets no
 * sound out.
 */
export function sound(what: 'taken' | 'refused' | 'done'): void {
  try {
    audio ??= new AudioContext();
    const at = audio.currentTime;
    const tones: [number, number, number][] =
      what === 'taken'
        ? [[880, 0, 0.09]]
        : what === 'done'
          ? [
              [660, 0, 0.09],
              [990, 0.11, 0.14]
            ]
          : [
              [200, 0, 0.18],
              [160, 0.22, 0.26]
            ];
    for (const [pitch, after, length] of tones) {
      const tone = audio.createOscillator(),
        level = audio.createGain();
      tone.frequency.value = pitch;
      level.gain.setValueAtTime(0.2, at + after);
      level.gain.exponentialRampToValueAtTime(0.001, at + after + length);
      tone.connect(level).connect(audio.destination);
      tone.start(at + after);
      tone.stop(at + after + length);
    }
  } catch {
    // No sound device, or none allowed: the words on screen say the same.
  }
}
