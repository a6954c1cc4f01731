import {
  type BudgetComponent,
  budgetPart,
  combineBudget,
  type Figure,
  type FigureInput,
  type Finding,
  type WholeCurve,
} from '../../units';
import { handDoubts, LOAD_ON_KNOWN_S } from './doubts';
import { type Ending, endingOf, type Reached } from './ending';
import {
  cellVoltage,
  chargeSides,
  currentsOf,
  halfDigit,
  type HandLead,
  handLead,
  type HandPoint,
  type HandSetting,
} from './points';

/** Kept with every capacity a hand log gave. */
export const HAND_LOG_METHOD = { name: 'hand-log', version: 1 };

/** What a hand log gave. */
export type HandResult =
  | { figure: Figure; fromAh: number; toAh: number; reason?: undefined }
  | { figure: null; reason: string };

const ROOT_3 = Math.sqrt(3);
/** Current and counter: what the tester shows, its digits, and the moment the load came on. */
function chargeParts(
  { at, ah }: Ending,
  points: readonly HandPoint[],
  { accuracy, countAtStartAh }: HandSetting,
): BudgetComponent[] {
  const hours = at.atS / 3600;
  const isCounted = at.point.values.shownAh !== undefined;
  const amps = currentsOf(points).flatMap((one) => one ?? []);
  const spread = amps.length > 1 ? Math.max(...amps) - Math.min(...amps) : 0;
  return [
    budgetPart(
      'currentGain',
      ((accuracy.currentGainPct / 100) * ah) / ROOT_3,
      `${accuracy.currentGainPct} % of reading, rectangular (${accuracy.source})`,
    ),
    budgetPart(
      'currentOffset',
      (accuracy.currentOffsetA * hours) / ROOT_3,
      `${(accuracy.currentOffsetA * 1000).toPrecision(2)} mA over ${hours.toFixed(1)} h, rectangular (${accuracy.source})`,
    ),
    ...(isCounted
      ? [
          budgetPart(
            'counterResolution',
            (halfDigit(at.point, 'shownAh') * (countAtStartAh > 0 ? Math.SQRT2 : 1)) / ROOT_3,
            'half of the last digit shown, rectangular',
          ),
        ]
      : [
          budgetPart(
            'loadOn',
            (at.amps * LOAD_ON_KNOWN_S) / 3600 / ROOT_3,
            `load-on known within ${LOAD_ON_KNOWN_S} s, rectangular`,
          ),
          budgetPart(
            'current',
            (spread * hours) / 2 / ROOT_3,
            `${spread.toPrecision(2)} A between the points that were read, rectangular`,
          ),
        ]),
  ];
}

function reachedOf(points: readonly HandPoint[], setting: HandSetting, lead: HandLead): Reached[] {
  const sides = chargeSides(points, setting);
  const currents = currentsOf(points);
  const isCounted = sides.some(({ counterAh }) => counterAh !== null);
  return points.flatMap((point, i) => {
    const ah = isCounted ? sides[i]!.counterAh : sides[i]!.currentAh;
    return ah === null
      ? []
      : [
          {
            point,
            atS: point.atS,
            amps: currents[i] ?? 0,
            ah,
            volts: cellVoltage(point, currents[i] ?? null, lead, setting),
          },
        ];
  });
}

/** Of the cell where it was read, else of the room. */
function meanTemperature(points: readonly HandPoint[], { ambientC }: HandSetting): FigureInput[] {
  const read = points.flatMap(({ values }) => values.cellC ?? []);
  const mean = read.length > 0 ? read.reduce((sum, c) => sum + c, 0) / read.length : ambientC;
  return mean === null
    ? []
    : [{ name: 'mean temperature', value: Number(mean.toFixed(2)), unit: '°C' }];
}

const LEAD_WORDS: Record<HandLead['from'], string> = {
  fourWire: 'four wires: no drop in the display',
  points: 'from display against terminals',
  channel: 'as measured for the channel',
  unknown: 'not known: up to 10 mΩ taken',
};

/**
 * The capacity a hand log gives: the charge at the moment the cell's own terminal voltage crosses the
 * cut-off (handbook, chapter 2). Between two points by the shape of the lot's curves, else linear;
 * beyond the last one by the tester's own stop; *at least* where neither got so far.
 * @param points in order of time. @param curves whole discharges of the lot, for their shape.
 */
export function handResult(
  points: readonly HandPoint[],
  setting: HandSetting,
  curves: readonly WholeCurve[],
): HandResult {
  const lead = handLead(points, setting);
  const reached = reachedOf(points, setting, lead);
  if (reached.length === 0)
    return {
      figure: null,
      reason: 'Expected at least one point with a charge, or with a current.',
    };
  const ending = endingOf(reached, setting, curves);
  if (!(ending.ah > 0))
    return { figure: null, reason: 'Expected a charge above 0: the counter shows none.' };
  const findings: Finding[] = handDoubts(points, setting).map(({ code, text }) => ({
    code,
    text,
    severity: 'warning',
  }));
  const { budget, standardUncertainty } = combineBudget([
    ...ending.parts,
    ...chargeParts(ending, points, setting),
  ]);
  const isCounted = ending.at.point.values.shownAh !== undefined;
  return {
    fromAh: ending.fromAh,
    toAh: ending.toAh,
    figure: {
      quantity: 'capacity',
      value: ending.ah,
      unit: 'Ah',
      bound: ending.isAtLeast ? 'atLeast' : 'exact',
      method: HAND_LOG_METHOD,
      inputs: [
        { name: 'points', value: points.length },
        { name: 'cut-off', value: setting.cutoffV, unit: 'V' },
        ...(setting.setCutoffV === null
          ? []
          : [{ name: 'cut-off set on the tester', value: setting.setCutoffV, unit: 'V' as const }]),
        { name: 'discharge current', value: ending.at.amps, unit: 'A' },
        ...meanTemperature(points, setting),
        ...(lead.mohm === null
          ? []
          : [{ name: 'leads', value: Number(lead.mohm.toPrecision(4)), unit: 'mΩ' as const }]),
      ],
      steps: [
        isCounted
          ? `Charge by the tester’s counter${setting.countAtStartAh > 0 ? `, less the ${setting.countAtStartAh} Ah it showed at the start` : ''}.`
          : 'Charge by the current shown at each point, over time.',
        `Leads ${LEAD_WORDS[lead.from]}.`,
        ending.step,
      ],
      findings,
      budget,
      standardUncertainty,
    },
  };
}
