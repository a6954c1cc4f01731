'use client';

import { keep, readKept } from '@/lib/browser-store';

/** Until when sound is off is kept in the browser. */
const KEY = 'dusk-bench-muted-until';

export const mutedUntil = (): number => Number(readKept(KEY) ?? 0);
export const muteForAnHour = (): void => void keep(KEY, Date.now() + 3_600_000);
export const unmute = (): void => void keep(KEY, null);

let context: AudioContext | null = null;

/** Two rising tones; nothing while muted, or before the page was touched once. */
export function sound(): void {
  if (Date.now() < mutedUntil()) return;
  try {
    context ??= new AudioContext();
    for (const [i, hertz] of [520, 780].entries()) {
      const tone = context.createOscillator();
      const loudness = context.createGain();
      const at = context.currentTime + i * 0.22;
      tone.frequency.value = hertz;
      loudness.gain.setValueAtTime(0.0001, at);
      loudness.gain.exponentialRampToValueAtTime(0.25, at + 0.02);
      loudness.gain.exponentialRampToValueAtTime(0.0001, at + 0.2);
      tone.connect(loudness).connect(context.destination);
      tone.start(at);
      tone.stop(at + 0.22);
    }
  } catch {
    // No sound on this machine; the alarm is on the screen all the same.
  }
}
