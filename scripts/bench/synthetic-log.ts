import { seededRandom } from '@dusk-tally/core/statistics';

/** A log of a steady discharge; the seed makes each file its own. */
export function syntheticLog(rows: number, seed: number): Uint8Array<ArrayBuffer> {
  const random = seededRandom(seed);
  const encoder = new TextEncoder();
  const bytes = new Uint8Array(64 + rows * 40);
  let length = encoder.encodeInto('time_s,voltage_V,current_A,temperature_C\n', bytes).written;
  let part = '';
  const flush = () => {
    length += encoder.encodeInto(part, bytes.subarray(length)).written;
    part = '';
  };
  for (let i = 0; i < rows; i++) {
    const load = i >= 60;
    const share = i / rows;
    const v = load
      ? 3.3 - 0.2 * share - 0.65 * Math.exp((share - 1) * 40) + 0.0004 * random.normal()
      : 3.4;
    part += `${i},${v.toFixed(4)},${(load ? -20.8 + 0.005 * random.normal() : 0).toFixed(3)},${(22 + 3 * share + 0.05 * random.normal()).toFixed(2)}\n`;
    if (part.length > 65_536) flush();
  }
  flush();
  return bytes.slice(0, length);
}
