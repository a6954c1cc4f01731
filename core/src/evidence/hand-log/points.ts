import { budgetPart, combineBudget, trapezoid } from '../../units';
import type { Accuracy } from '../accuracy';
import { leadFromSpots, typedLeadUncertainty } from '../lead-resistance';

/** What a point of a hand log may hold: off the tester's display, or from a hand meter or probe. */
export const POINT_FIELDS = {
  shownV: { words: 'Display', unit: 'V', least: 0, most: 100 },
  shownA: { words: 'Current', unit: 'A', least: 0, most: 1000 },
  shownAh: { words: 'Charge', unit: 'Ah', least: 0, most: 10_000 },
  cellV: { words: 'At the cell', unit: 'V', least: 0, most: 10 },
  shownW: { words: 'Power', unit: 'W', least: 0, most: 100_000 },
  shownWh: { words: 'Energy', unit: 'Wh', least: 0, most: 1_000_000 },
  shownS: { words: 'Time on it', unit: 's', least: 0, most: 2_592_000 },
  shownC: { words: 'Display', unit: '°C', least: -40, most: 150 },
  shownMohm: { words: 'Resistance', unit: 'mΩ', least: 0, most: 10_000 },
  cellC: { words: 'Cell', unit: '°C', least: -40, most: 150 },
  terminalC: { words: 'Terminal', unit: '°C', least: -40, most: 150 },
  cableC: { words: 'Cable', unit: '°C', least: -40, most: 150 },
} as const;
/** Name of one of them. */
export type PointField = keyof typeof POINT_FIELDS;

/** What somebody read as they walked past (handbook, chapter 2, "the hand log"). */
export interface HandPoint {
  /** Since the load came on, s. */
  atS: number;
  values: Partial<Record<PointField, number>>;
  /** Digits after the point, as they were typed. */
  decimals: Partial<Record<PointField, number>>;
  /** The tester had stopped by itself: its counter stands, and no current flows. */
  isStop: boolean;
}

/** What a hand log is read against. */
export interface HandSetting {
  /** The claim's, at the cell's own terminals, V. */
  cutoffV: number;
  /** As set on the tester, V; null where nobody said. */
  setCutoffV: number | null;
  /** Current as set, A, for testers that show none; null where nobody said. */
  setA: number | null;
  wires: 2 | 4;
  /** Both leads of the channel together, mΩ; 0 where nobody measured them. */
  leadMohm: number;
  /** What the counter showed before the load came on, Ah. */
  countAtStartAh: number;
  expectedAh: number;
  /** Of the room, °C; null where it was not read. */
  ambientC: number | null;
  /** Of what the tester shows. */
  accuracy: Accuracy;
}

/** A hand meter on the terminals is known within so much of its reading, as limits: a house default. */
const HAND_METER_SHARE = 0.001;
/** Leads nobody measured have up to this, mΩ, there and back: a house default. */
const UNKNOWN_LEADS_MOHM = 10;

const ROOT_3 = Math.sqrt(3);

/** Half of the last digit of a field, in its unit. */
export const halfDigit = ({ decimals }: HandPoint, field: PointField): number =>
  10 ** -(decimals[field] ?? 0) / 2;

/** Current that flows at each point, A: after the tester stopped it is the one before. */
export function currentsOf(points: readonly HandPoint[]): (number | null)[] {
  let before: number | null = null;
  return points.map(({ values: { shownA }, isStop }) => {
    if (!isStop && shownA !== undefined) before = shownA;
    return before;
  });
}

/** Charge at one point, told in two ways. */
export interface ChargeSides {
  atS: number;
  /** By the tester's counter, less what it showed at the start, Ah. */
  counterAh: number | null;
  /** By the current shown, over time, Ah. */
  currentAh: number | null;
}

/** Charge from counter and from current, side by side, point by point; from load-on to the first the current is that of the first. */
export function chargeSides(
  points: readonly HandPoint[],
  { countAtStartAh }: Pick<HandSetting, 'countAtStartAh'>,
): ChargeSides[] {
  const currents = currentsOf(points);
  const first = currents.find((amps) => amps !== null) ?? null;
  let ah = 0;
  let [lastS, lastA] = [0, first];
  return points.map(({ atS, values: { shownAh }, isStop }, i) => {
    const counterAh = shownAh === undefined ? null : shownAh - countAtStartAh;
    // When it stopped nobody saw: its current tells nothing up to the moment it was found.
    if (isStop) return { atS, counterAh, currentAh: null };
    const amps = currents[i] ?? first;
    if (amps !== null && lastA !== null) ah += trapezoid(lastA, amps, (atS - lastS) / 3600);
    [lastS, lastA] = [atS, amps];
    return {
      atS,
      counterAh,
      currentAh: first === null ? null : ah,
    };
  });
}

/** Resistance of the leads of a hand log. */
export interface HandLead {
  /** mΩ; null where nothing tells it. */
  mohm: number | null;
  standardUncertaintyMohm: number;
  from: 'fourWire' | 'points' | 'channel' | 'unknown';
}

/** Leads from display against terminals; else as measured for the channel; four wires have none in the reading. */
export function handLead(
  points: readonly HandPoint[],
  { wires, leadMohm }: Pick<HandSetting, 'wires' | 'leadMohm'>,
): HandLead {
  if (wires === 4) return { mohm: 0, standardUncertaintyMohm: 0, from: 'fourWire' };
  const spots = points.flatMap(({ values: { shownV, shownA, cellV }, isStop }) =>
    shownV === undefined || shownA === undefined || cellV === undefined || isStop
      ? []
      : [{ testerV: shownV, cellV, currentA: shownA }],
  );
  const found = leadFromSpots(spots);
  if (found.mohm !== null)
    return {
      mohm: found.mohm,
      standardUncertaintyMohm: found.standardUncertaintyMohm,
      from: 'points',
    };
  return leadMohm > 0
    ? {
        mohm: leadMohm,
        standardUncertaintyMohm: typedLeadUncertainty(leadMohm),
        from: 'channel',
      }
    : { mohm: null, standardUncertaintyMohm: 0, from: 'unknown' };
}

/** Voltage of the cell itself with its standard uncertainties, V. */
export interface CellVoltage {
  v: number;
  /** Of meter or display. */
  meterV: number;
  /** Of the drop over the leads that was added. */
  leadV: number;
}

/** The cell's own voltage where its leads take their drop from a voltage the tester shows or keeps to, V. */
export function behindLeads(
  testerV: number,
  amps: number,
  lead: HandLead,
  { accuracy, digitV }: { accuracy: Accuracy; digitV: number },
): CellVoltage {
  const { standardUncertainty: meterV } = combineBudget([
    budgetPart('voltageGain', ((accuracy.voltageGainPct / 100) * testerV) / ROOT_3, ''),
    budgetPart('voltage', accuracy.voltageOffsetV / ROOT_3, ''),
    budgetPart('resolution', digitV / ROOT_3, ''),
  ]);
  return lead.mohm === null
    ? {
        v: testerV + (UNKNOWN_LEADS_MOHM / 2000) * amps,
        meterV,
        leadV: ((UNKNOWN_LEADS_MOHM / 2000) * amps) / ROOT_3,
      }
    : {
        v: testerV + (lead.mohm / 1000) * amps,
        meterV,
        leadV: (lead.standardUncertaintyMohm / 1000) * amps,
      };
}

/**
 * The cell's own voltage at a point: from the meter on its terminals, else from the display and the
 * leads; of a tester that stopped, its cut-off and the leads. Null where nothing tells it.
 */
export function cellVoltage(
  point: HandPoint,
  amps: number | null,
  lead: HandLead,
  { accuracy, setCutoffV, setA }: Pick<HandSetting, 'accuracy' | 'setCutoffV' | 'setA'>,
): CellVoltage | null {
  const { cellV, shownV } = point.values;
  const flows = amps ?? setA ?? 0;
  if (point.isStop)
    return setCutoffV === null
      ? null
      : behindLeads(setCutoffV, flows, lead, { accuracy, digitV: 0 });
  if (cellV !== undefined)
    return {
      v: cellV,
      meterV: Math.hypot((HAND_METER_SHARE * cellV) / ROOT_3, halfDigit(point, 'cellV') / ROOT_3),
      leadV: 0,
    };
  if (shownV === undefined) return null;
  return behindLeads(shownV, flows, lead, { accuracy, digitV: halfDigit(point, 'shownV') });
}

/**
 * The cut-off to set on the tester so that the cell itself ends at the claim's, V (handbook, chapter 2).
 * @example cutoffToSet(2.5, 20.8, { mohm: 4.8, standardUncertaintyMohm: 0.1, from: 'points' }) // 2.40016
 */
export const cutoffToSet = (cutoffV: number, amps: number, lead: HandLead): number | null =>
  lead.mohm === null ? null : cutoffV - (lead.mohm / 1000) * amps;
