import { CLAIM_ITEMS, DEEP_DISCHARGE_V, findingKind } from '@dusk-tally/core/arrivals';
import { type Accuracy, HAND_LOG_METHOD } from '@dusk-tally/core/evidence';
import { TYPED_CAPACITY_METHOD } from '@dusk-tally/core/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { CellArrivalRow, InstrumentRow } from '@dusk-tally/store';
import type { EffectiveClaim } from '../lots';
import type { ReportedItem, ReportSnapshot } from '../compute';

/** Condition of an item when it came, in words. */
export function arrivalWords(arrival: CellArrivalRow | undefined): string[] {
  if (!arrival) return [];
  const findings = (JSON.parse(arrival.findings) as string[]).map(
    (code) => findingKind(code).words,
  );
  return [
    arrival.inspected
      ? `inspected: ${findings.length > 0 ? findings.join(', ') : 'nothing found'}`
      : 'not inspected',
    ...(arrival.firstV === null ? [] : [`first voltage ${arrival.firstV.toFixed(3)} V`]),
    ...(arrival.producedOn === null ? [] : [`produced ${arrival.producedOn} by its code`]),
    ...(arrival.lowestV !== null && arrival.lowestV < DEEP_DISCHARGE_V
      ? [`was below 1.0 V once (${arrival.lowestV.toFixed(2)} V)`]
      : []),
  ];
}

const FROM = { claim: '', model: ' (data sheet)', chemistry: ' (usual for the chemistry)' };

/** The claim in words, each part with where it comes from unless the supplier stated it. */
export function claimLines(claim: EffectiveClaim): ReportSnapshot['claim'] {
  return claim.items.map((item) => {
    const { words, unit, conditions: specs } = CLAIM_ITEMS[item.kind];
    const bound =
      item.kind === 'capacity' ? 'at least ' : item.kind.endsWith('Resistance') ? 'at most ' : '';
    const conditions = item.conditions.map(({ name, value, from }) => {
      const spec = specs.find((candidate) => candidate.name === name)!;
      const shown = spec.choices?.[value] ?? `${value}${spec.unit ? ` ${spec.unit}` : ''}`;
      return `${spec.words} ${shown}${FROM[from]}`;
    });
    const missing = (name: string, said: string) =>
      item.kind === 'capacity' && !item.conditions.some((c) => c.name === name) ? [said] : [];
    return {
      name: words,
      value: `${bound}${item.value === null ? item.text : `${item.value}${unit ? ` ${unit}` : ''}`}${FROM[item.from]}`,
      conditions: [
        ...(item.kind === 'acResistance' ? ['1 kHz'] : []),
        ...conditions,
        ...missing('rateIt', 'rate not stated'),
        ...missing('temperatureC', 'temperature not stated'),
      ].join(', '),
    };
  });
}

/** Unit a meter’s offset is in. */
const OFFSET_UNIT: Readonly<Record<Exclude<InstrumentRow['kind'], 'tester'>, string>> = {
  acMeter: 'mΩ',
  voltmeter: 'V',
  scale: 'g',
  caliper: 'mm',
};

export function accuracyWords(instrument: InstrumentRow): string {
  if (instrument.kind === 'tester') {
    const a = instrument.accuracy as Accuracy;
    return `current ±(${a.currentGainPct} % + ${formatNumber(a.currentOffsetA * 1000, 1)} mA), voltage ±(${a.voltageGainPct} % + ${formatNumber(a.voltageOffsetV * 1000, 1)} mV)`;
  }
  const a = instrument.accuracy as { gainPct: number; offset: number };
  return `±(${a.gainPct} % + ${a.offset} ${OFFSET_UNIT[instrument.kind]})`;
}

/** A calibration, and whether it was overdue on the day an instrument was used last. */
export function calibrationWords(instrument: InstrumentRow, day: string): string {
  if (!instrument.calibratedOn) return 'no calibration date recorded';
  const overdue = instrument.dueOn && instrument.dueOn < day ? ' (overdue on the day)' : '';
  return `calibrated ${instrument.calibratedOn}${instrument.dueOn ? `, due ${instrument.dueOn}${overdue}` : ''}`;
}

/** Whether a capacity came of a method, however it was carried to the claim afterwards. */
const cameOf =
  (method: string) =>
  ({ capacity, capacityMeasured }: ReportedItem): boolean =>
    (capacityMeasured ?? capacity)?.method === method;

const numbersOf = (items: readonly ReportedItem[], of: readonly ReportedItem[]): string =>
  of.length === items.length
    ? 'all items'
    : of.length > 12
      ? `${of.length} items`
      : of.map(({ number }) => number).join(', ');

export function methodWords(
  claim: EffectiveClaim,
  items: readonly ReportedItem[],
  undescribed: boolean,
): string[] {
  const byHand = items.filter(cameOf(HAND_LOG_METHOD.name));
  const typed = items.filter(cameOf(TYPED_CAPACITY_METHOD.name));
  const logged =
    items.filter(({ capacity }) => capacity !== null).length > byHand.length + typed.length;
  return [
    ...(logged || byHand.length + typed.length === 0
      ? [
          `Capacity: each cell was discharged at constant current; charge was integrated by the trapezoid rule from load-on to the first time the terminal voltage fell to ${claim.cutoffV.value} V, interpolated inside the interval. Energy likewise.`,
        ]
      : []),
    ...(byHand.length > 0
      ? [
          `Capacity of ${numbersOf(items, byHand)}: no log was written; the tester’s display was read from time to time. Charge is its counter, or its current over time, up to the cut-off between two readings; the uncertainty holds what nobody saw between them.`,
        ]
      : []),
    ...(typed.length > 0
      ? [
          `Capacity of ${numbersOf(items, typed)}: a single number as the tester showed it at the end.`,
        ]
      : []),
    ...(items.some(({ rest }) => rest && rest.length > 0)
      ? [
          'Self-discharge: cells stood full, without load; their open-circuit voltage was read on the days of the protocol, the first day left to relaxation, and each was held against the others of its lot.',
        ]
      : []),
    'DC resistance: voltage before load-on less voltage 10 s after it, over the current.',
    'AC resistance: at 1 kHz, four-wire, on the terminals. AC and DC resistance are different quantities and are not compared.',
    'A result marked “at least” comes from a discharge that ended above the cut-off.',
    ...(undescribed
      ? [
          'Where no instrument is named, the house default accuracy of an instrument not described was used: current 0.5 % and 0.1 % of the largest current, voltage 10 mV; AC resistance 2 %.',
        ]
      : []),
  ];
}

export function ruleWords(guardFactor: number): string[] {
  const base =
    guardFactor > 0
      ? `Decision rule: guard band w = ${guardFactor === 1 ? '' : `${guardFactor} × `}U (after ILAC-G8:09/2019). “Met” when the result is inside the limit by at least w, “not met” when it is outside by more than w, “too close to call” between.`
      : 'Decision rule: simple acceptance, no guard band. The risk of a wrong verdict near the limit is up to 50 %.';
  return [
    'Uncertainties are expanded uncertainties U with k = 2 (JCGM 100), about 95 % coverage.',
    base,
  ];
}

export function notTestedWords(items: ReportedItem[]): string[] {
  const lacking = (pick: (item: ReportedItem) => unknown, words: string) => {
    const numbers = items.filter((item) => pick(item) === null).map((item) => item.number);
    if (numbers.length === 0) return [];
    return [
      numbers.length === items.length
        ? `${words}: all items.`
        : `${words}: ${numbers.length > 12 ? `${numbers.length} items` : numbers.join(', ')}.`,
    ];
  };
  return [
    ...lacking((item) => item.capacity, 'Without a capacity test'),
    ...lacking((item) => item.acResistance, 'Without an AC resistance reading'),
    ...lacking(
      (item) => (item.rest?.length ? item.rest : null),
      'Without a check of self-discharge at rest',
    ),
  ];
}
