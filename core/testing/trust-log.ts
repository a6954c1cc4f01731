import type { RandomSource } from '../src/statistics';

/** Claim every simulated cell is judged by. */
export const TRUST_CLAIM = { ratedAh: 100, rateIt: 0.2, cutoffV: 2.5, temperatureC: 25 };

/** What is wrong with a run; `none` for nine in ten. */
export type Fault =
  | 'none'
  | 'hole'
  | 'clock'
  | 'deadCounter'
  | 'wildChannel'
  | 'wrongLead'
  | 'stoppedEarly'
  | 'swapped'
  | 'gap'
  | 'setBack'
  | 'setForward'
  | 'summerTime'
  | 'chargedInHole'
  | 'negative'
  | 'onBeat'
  | 'noTemperature'
  | 'noRate';
export const FAULTS: Fault[] = [
  'hole',
  'clock',
  'deadCounter',
  'wildChannel',
  'wrongLead',
  'stoppedEarly',
  'swapped',
  // The load went off for 4 to 9 intervals, and nothing says so.
  'gap',
  // The clock was set back or forward while it ran; by the hour of autumn or spring on its day.
  'setBack',
  'setForward',
  'summerTime',
  // Charged for a while in a hole.
  'chargedInHole',
  // All current written negative, with a hole over the knee and a counter.
  'negative',
  // Load-on at a row, the truth at one end of the interval.
  'onBeat',
  // Nobody recorded the temperature, or at which rate it was found.
  'noTemperature',
  'noRate',
];

/** Limits of the tester every channel is described by. */
export const TRUST_ACCURACY = {
  currentGainPct: 0.5,
  currentOffsetA: 0.005,
  voltageGainPct: 0.02,
  voltageOffsetV: 0.003,
  timePpm: 100,
  source: 'stated',
};

/** The voltage of a cell against the charge it gave. */
export interface BaseCurve {
  /** Charge, Ah, at each second, and the voltage there at 20 A. */
  ah: Float64Array;
  volts: Float64Array;
}

const OHM = 0.0012;

/** How one run is logged. */
export interface RunPlan {
  /** Charge to the cut-off under these conditions, Ah. */
  holdsAh: number;
  currentA: number;
  intervalS: number;
  ambientC: number;
  gain: number;
  leadOhm: number;
  /** Resistance of this cell over the usual one of its model. */
  ohms: number;
  fault: Fault;
  random: RandomSource;
}

const fixed = (value: number, digits: number, comma: boolean): string =>
  comma ? value.toFixed(digits).replace('.', ',') : value.toFixed(digits);

/** What is wrong with one run, drawn. */
function wrongWith({ holdsAh, intervalS, fault, random }: RunPlan, restS: number) {
  const clock = fault === 'clock' ? Math.floor(3 * random.uniform()) : -1;
  const hasCounter =
    fault === 'deadCounter' || fault === 'negative' || (fault === 'hole' && random.uniform() < 0.5);
  const stopAh = fault === 'stoppedEarly' ? holdsAh * (0.6 + 0.39 * random.uniform()) : Infinity;
  /** The load off for so many intervals and on again, and no rows of it; s of the load’s own time. */
  const gap =
    fault === 'gap'
      ? {
          atAh: holdsAh * (0.1 + 0.8 * random.uniform()),
          forS: intervalS * (4 + 5 * random.uniform()),
        }
      : null;
  /** The clock jumps by so much, s, at a moment of the log. */
  const jump =
    fault === 'setBack' || fault === 'setForward'
      ? {
          atAh: holdsAh * (0.1 + 0.8 * random.uniform()),
          byS: (fault === 'setBack' ? -1 : 1) * (intervalS * 2 + 7000 * random.uniform()),
        }
      : null;
  const summer =
    fault === 'summerTime'
      ? {
          autumn: random.uniform() < 0.5,
          atS: restS + 1800 + 3600 * Math.floor(2 * random.uniform()),
        }
      : null;
  /** Charged by so much in a hole: the discharge goes back along its curve. */
  const charged =
    fault === 'chargedInHole'
      ? {
          atAh: holdsAh * (0.3 + 0.6 * random.uniform()),
          byAh: holdsAh * (0.05 + 0.2 * random.uniform()),
          forS: 900 + 5000 * random.uniform(),
        }
      : null;
  const hole =
    fault === 'hole' || fault === 'negative'
      ? {
          atAh:
            fault === 'negative'
              ? holdsAh * (0.93 + 0.05 * random.uniform())
              : holdsAh * (0.05 + 0.9 * random.uniform()),
          forS: 300 + 17_700 * random.uniform(),
          stood: random.uniform() < 0.5,
        }
      : null;
  const frozenAh = fault === 'deadCounter' ? holdsAh * 0.8 * random.uniform() : Infinity;
  return { clock, hasCounter, stopAh, gap, jump, summer, charged, hole, frozenAh };
}

/** How the clock of a log writes a time, s. */
function clockOf(
  { clock, summer }: Pick<ReturnType<typeof wrongWith>, 'clock' | 'summer'>,
  intervalS: number,
): (t: number) => string {
  const stamp = (t: number) => {
    // Rows are stamped by a wall clock of central Europe; the change falls at three in the morning.
    const [day, hour] = summer!.autumn ? [Date.UTC(2026, 9, 25), 3] : [Date.UTC(2026, 2, 29), 2];
    const changed = t >= summer!.atS ? (summer!.autumn ? -3600 : 3600) : 0;
    const at = new Date(day + (hour * 3600 + t - summer!.atS + changed) * 1000);
    return at.toISOString().slice(0, 19).replace('T', ' ');
  };
  return (t: number) => {
    if (summer) return stamp(t);
    if (clock === 0) {
      const whole = Math.round(t);
      return whole < 1000
        ? String(whole)
        : `${Math.floor(whole / 1000)}.${String(whole % 1000).padStart(3, '0')}`;
    }
    if (clock === 1) return (t / 60).toFixed(5);
    if (clock === 2) return (t / 3600).toFixed(7);
    return t.toFixed(intervalS < 1 ? 1 : 0);
  };
}

/** Writes the log of one run. */
export function writeLog(base: BaseCurve, plan: RunPlan): Uint8Array {
  const { holdsAh, currentA, intervalS, ambientC, gain, leadOhm, ohms, fault, random } = plan;
  const shift = (currentA * ohms - 20) * OHM;
  let cross = 1;
  while (base.volts[cross]! - shift > TRUST_CLAIM.cutoffV) cross++;
  const scale = holdsAh / base.ah[cross]!;
  const voltOff = (TRUST_ACCURACY.voltageOffsetV / Math.sqrt(3)) * random.normal();
  const offset = (TRUST_ACCURACY.currentOffsetA / Math.sqrt(3)) * random.normal();
  const trueVolts = (ah: number) => {
    const at = ((ah / scale) * 3600) / 20;
    const low = Math.min(base.volts.length - 2, Math.floor(at));
    const share = Math.min(1, at - low);
    return base.volts[low]! * (1 - share) + base.volts[low + 1]! * share - shift;
  };
  // At rest after charge: what the load takes away at once is the cell’s own resistance.
  const restedV = base.volts[0]! + 20 * OHM;
  const restS = 300 + 60 * Math.floor(5 * random.uniform());
  // On the beat, the load comes on with a row, or right after one.
  const within = fault === 'onBeat' ? 0.999 * Math.round(random.uniform()) : random.uniform();
  const loadOnS = restS + intervalS * within;
  const wrong = wrongWith(plan, restS);
  const { clock, hasCounter, stopAh, gap, jump, summer, charged, hole, frozenAh } = wrong;
  const comma = clock === 0;
  const timeText = clockOf(wrong, intervalS);
  let chargedAh = 0;
  const names = [
    summer ? 'timestamp' : clock >= 0 ? 't' : 'time_s',
    'voltage_V',
    'current_A',
    ...(fault === 'noTemperature' ? [] : ['temperature_C']),
    ...(hasCounter ? ['capacity_Ah'] : []),
  ];
  const delimiter = comma ? ';' : ',';
  const lines = [names.join(delimiter)];
  let added = 0;
  let [counter, counterAt] = [0, 0];
  let after = 0;
  for (let t = 0; after < 5; t += intervalS) {
    const onS = t - loadOnS;
    const given = Math.max(0, (onS * currentA) / 3600) - chargedAh;
    if (charged && chargedAh === 0 && given > charged.atAh) {
      chargedAh = charged.byAh;
      added += charged.forS;
      continue;
    }
    if (gap && added === 0 && given > gap.atAh) added = gap.forS;
    if (jump && added === 0 && given > jump.atAh) added = jump.byS;
    const seen = trueVolts(given) - currentA * leadOhm + voltOff;
    // The tester looks at its own terminals, with what it knows of the leads made good by the lab.
    const isOver = given >= stopAh || (onS >= 0 && seen < TRUST_CLAIM.cutoffV - 0.12);
    if (isOver) after++;
    const isOn = onS >= 0 && !isOver;
    if (hole && given > hole.atAh) {
      if (hole.stood && added === 0) added = hole.forS;
      const lostAh = (hole.forS * currentA) / 3600;
      if (!hole.stood && given < hole.atAh + lostAh && !isOver) continue;
    }
    const amps = isOn ? currentA * gain + offset + 0.002 * random.normal() : 0;
    if (isOn) counter = Math.min(frozenAh, given * gain);
    if (isOn) counterAt = t;
    const cells = [
      timeText(t + added),
      fixed(
        (isOn ? seen : onS < 0 ? restedV + voltOff : 3.35) + 0.0004 * random.normal(),
        3,
        comma,
      ),
      fixed(-amps, 3, comma),
      ...(fault === 'noTemperature'
        ? []
        : [fixed(ambientC + 0.6 + 0.1 * random.normal(), 1, comma)]),
      ...(hasCounter ? [fixed(counter, 3, comma)] : []),
    ];
    lines.push(cells.join(delimiter));
    if (t - counterAt > 40_000 && isOn) break;
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
