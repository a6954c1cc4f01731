/** A seeded source of randomness; the same seed gives the same numbers anywhere. */
export interface RandomSource {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal deviate. */
  normal(): number;
}

/** The 32-bit generator mulberry32 with Box–Muller normals. Not for secrets. */
export function seededRandom(seed: number): RandomSource {
  let state = seed >>> 0;
  let spare: number | null = null;
  const uniform = () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = () => {
    if (spare !== null) {
      const value = spare;
      spare = null;
      return value;
    }
    const radius = Math.sqrt(-2 * Math.log(1 - uniform()));
    const angle = 2 * Math.PI * uniform();
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
  return { uniform, normal };
}
