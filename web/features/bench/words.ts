import type { LiveRun } from '@dusk-tally/lab/bench';

export const STEP_WORDS: Record<string, string> = {
  charge: 'charging',
  rest: 'resting',
  discharge: 'discharging',
  pulse: 'pulsing',
  measure: 'measuring',
  toStorage: 'to storage',
};

export const ASK_WORDS: Record<string, [string, string]> = {
  acResistance: ['AC resistance', 'mΩ'],
  openCircuitVoltage: ['open-circuit voltage', 'V'],
  mass: ['mass', 'g'],
  temperature: ['surface temperature', '°C'],
  torque: ['terminal torque', 'N·m'],
};

/** What a run is doing, in one or two words. */
export function doing(run: LiveRun): string {
  if (run.phase === 'ended') return run.completed ? 'done' : 'stopped';
  if (run.phase === 'paused') return 'paused';
  if (run.phase === 'waiting') return 'about to start';
  if (run.asks) return `waits for ${ASK_WORDS[run.asks]?.[0] ?? 'a reading'}`;
  return STEP_WORDS[run.stepKind] ?? run.stepKind;
}

/** `3 h 20 min`; minutes alone below an hour, days above two. */
export function lengthOf(seconds: number): string {
  const minutes = Math.max(0, Math.round(seconds / 60));
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
  const hours = Math.round(minutes / 60);
  return `${Math.floor(hours / 24)} d ${hours % 24} h`;
}
