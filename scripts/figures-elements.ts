import {
  carryFigureToClaim,
  type CurveShape,
  type LogFigures,
  type ReadLog,
  shapeOf,
  unknownTesterAccuracy,
  windowCapacity,
} from '@dusk-tally/core/evidence';
import {
  type BudgetComponent,
  budgetKind,
  expandedUncertainty,
  type Finding,
} from '@dusk-tally/core/units';
import {
  claimRateIt,
  claimTemperatureC,
  cutoffsV,
  leadMohm,
  leadUncertaintyMohm,
  ratedAh,
  window,
} from './figures-options';

export interface Element {
  file: string;
  status: 'read' | 'refused';
  message: string | null;
  rows: number | null;
  findings: { code: string; text: string }[];
  sections: { kind: string; fromS: number; toS: number; ah: number }[];
  capacity: {
    cutoffV: number;
    ah: number | null;
    wh: number | null;
    bound: string | null;
    U: number | null;
    meanVoltageV: number | null;
    /** Standard uncertainties, largest first. */
    budget: BudgetComponent[] | null;
  }[];
  resistanceMohm: { r1s: number | null; r10s: number | null; r30s: number | null };
  twoStepDcMohm: number | null;
  leaderShare: number[] | null;
  /** Why a load-on resistance is null. */
  resistanceReasons: { r1s: string | null; r10s: string | null; r30s: string | null };
  /** ΔV / ΔI of each cell of a string between two loads, mΩ. */
  stringResistance: {
    lowA: number;
    highA: number;
    mohm: number[];
    standsOut: boolean[];
  } | null;
  /** Knee, end slope, relaxation and peaks of dQ/dV. */
  shape:
    | (Pick<CurveShape, 'knee' | 'endSlopeVPerAh' | 'relaxationV'> & {
        peaks: { voltageV: number; ahPerV: number }[];
      })
    | null;
  /** Charge between two voltages, with --window. */
  window: {
    fromV: number;
    toV: number;
    ah: number | null;
    U: number | null;
    reason: string | null;
  } | null;
  /** Capacity to the first cut-off carried to the claim’s conditions, with --rated-ah and --claim-… */
  atClaim: {
    ah: number | null;
    U: number | null;
    corrections: { name: string; factor: number; text: string }[];
    reasons: string[];
  } | null;
  /** By the instrument’s own counter over the discharge, its start subtracted. */
  counter: { ah: number; startAh: number } | null;
  efficiency: LogFigures['efficiency'];
  temperature: LogFigures['temperature'];
  restBeforeS: number | null;
  meanCurrentA: number | null;
}

const plain = (findings: Finding[]) => findings.map(({ code, text }) => ({ code, text }));

export function refused(file: string, message: string, code: string): Element {
  console.error(`${file}: refused. ${message}`);
  return {
    file,
    status: 'refused',
    message,
    rows: null,
    findings: [{ code, text: message }],
    sections: [],
    capacity: [],
    resistanceMohm: { r1s: null, r10s: null, r30s: null },
    twoStepDcMohm: null,
    leaderShare: null,
    resistanceReasons: { r1s: null, r10s: null, r30s: null },
    stringResistance: null,
    shape: null,
    window: null,
    atClaim: null,
    counter: null,
    efficiency: null,
    temperature: null,
    restBeforeS: null,
    meanCurrentA: null,
  };
}

function shapeElement(log: ReadLog, figures: LogFigures): Element['shape'] {
  if (!figures.discharge) return null;
  const { knee, endSlopeVPerAh, relaxationV, incremental } = shapeOf(
    log.trace,
    figures.sections,
    figures.discharge,
    ratedAh ?? null,
  );
  return { knee, endSlopeVPerAh, relaxationV, peaks: incremental?.peaks ?? [] };
}

function windowElement({ trace }: ReadLog, { discharge }: LogFigures): Element['window'] {
  if (!window) return null;
  const most = trace.currentA?.reduce((a, b) => Math.max(a, Math.abs(b)), 0) ?? 0;
  const { figure, reason } = windowCapacity(trace, discharge, window, {
    accuracy: unknownTesterAccuracy(most),
    leadMohm,
    leadUncertaintyMohm,
  });
  return {
    ...window,
    ah: figure?.value ?? null,
    U: figure ? expandedUncertainty(figure) : null,
    reason: reason ?? null,
  };
}

function atClaimElement(figures: LogFigures): Element['atClaim'] {
  const raw = figures.capacities?.[0];
  if (!raw || !ratedAh || (claimRateIt === undefined && claimTemperatureC === undefined))
    return null;
  const charge = figures.sections.findLast(
    ({ kind, toS }) => kind === 'charge' && toS <= figures.discharge!.loadOnS,
  );
  const carried = carryFigureToClaim(
    raw.capacity,
    {
      rateIt: claimRateIt ?? null,
      cutoffV: raw.cutoffV,
      temperatureC: claimTemperatureC ?? null,
    },
    {
      meanCurrentA: figures.meanCurrentA,
      ratedAh,
      meanTemperatureC: figures.temperature?.meanC ?? null,
      restAfterChargeS: charge ? figures.discharge!.loadOnS - charge.toS : null,
      restBeforeS: figures.restBeforeS,
    },
  );
  return carried.comparable
    ? {
        ah: carried.estimate.value,
        U: expandedUncertainty(carried.estimate),
        corrections: carried.corrections.map(({ kind, factor, text }) => ({
          name: budgetKind(kind).words,
          factor,
          text,
        })),
        reasons: [],
      }
    : { ah: null, U: null, corrections: [], reasons: carried.reasons };
}

export function elementOf(file: string, log: ReadLog, figures: LogFigures): Element {
  const { rows } = log;
  const { resistance, stringCells } = figures;
  return {
    file,
    status: 'read',
    message: null,
    rows,
    findings: plain(figures.findings),
    sections: figures.sections.map(({ kind, fromS, toS, ah }) => ({ kind, fromS, toS, ah })),
    capacity: cutoffsV.map((cutoffV, i) => {
      const found = figures.capacities?.[i];
      return {
        cutoffV,
        ah: found?.capacity.value ?? null,
        wh: found?.energy.value ?? null,
        bound: found?.capacity.bound ?? null,
        U: found ? expandedUncertainty(found.capacity) : null,
        meanVoltageV: found?.meanVoltage.value ?? null,
        budget: found?.capacity.budget ?? null,
      };
    }),
    resistanceMohm: {
      r1s: resistance.r1s.figure?.value ?? null,
      r10s: resistance.r10s.figure?.value ?? null,
      r30s: resistance.r30s.figure?.value ?? null,
    },
    twoStepDcMohm: resistance.twoStep.figure?.value ?? null,
    leaderShare: figures.leaderShare,
    resistanceReasons: {
      r1s: resistance.r1s.reason ?? null,
      r10s: resistance.r10s.reason ?? null,
      r30s: resistance.r30s.reason ?? null,
    },
    stringResistance: stringCells && {
      lowA: stringCells.lowA,
      highA: stringCells.highA,
      mohm: stringCells.cells.map(({ figure }) => figure.value),
      standsOut: stringCells.cells.map(({ standsOut }) => standsOut),
    },
    shape: shapeElement(log, figures),
    window: windowElement(log, figures),
    atClaim: atClaimElement(figures),
    counter: figures.counter ? { ah: figures.counter.ah, startAh: figures.counter.startAh } : null,
    efficiency: figures.efficiency,
    temperature: figures.temperature,
    restBeforeS: figures.restBeforeS,
    meanCurrentA: figures.meanCurrentA,
  };
}
