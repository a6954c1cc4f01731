import {
  type LogFigures,
  type ReadLog,
  sectionsInWhole,
  shapeOf,
  sustainedCurrents,
} from '@dusk-tally/core/evidence';
import { expandedUncertainty } from '@dusk-tally/core/units';
import type { RunSummary } from '@dusk-tally/store';
import type { LogTask } from './log-task';

function lowestOf(values: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < values.length; i++) if (values[i]! < least) least = values[i]!;
  return least;
}

export function summaryOf(
  figures: LogFigures,
  log: ReadLog,
  { cutoffV, ratedAh }: Pick<LogTask, 'cutoffV' | 'ratedAh'>,
  rowOf: Uint32Array | null,
  chargeGiven: Float64Array,
): RunSummary {
  const { preamble: _preamble, ...dialect } = log.dialect;
  const span = figures.capacities?.[0]?.capacity.span;
  const { r1s, r10s, r30s } = figures.resistance;
  return {
    sections: sectionsInWhole(figures.sections.slice(0, 500), rowOf),
    findings: figures.findings,
    dialect,
    meanCurrentA: figures.meanCurrentA,
    restBeforeS: figures.restBeforeS,
    meanTemperatureC: figures.temperature?.meanC ?? null,
    maxTemperatureC: figures.temperature?.maxC ?? null,
    lowestV: lowestOf(log.trace.voltageV),
    cutoffV,
    loadOnS: span?.fromS ?? null,
    endS: span?.toS ?? null,
    counterAh: figures.counter?.ah ?? null,
    dischargedAh: figures.discharge?.ah ?? null,
    string: stringSummary(figures),
    sanity: figures.sanity,
    holes: log.trace.holes.slice(0, 200),
    leaderShare: figures.leaderShare,
    currents: sustainedCurrents(log.trace, figures.sections),
    shape: shapeOf(log.trace, figures.sections, figures.discharge, ratedAh, chargeGiven),
    refusedResistances: {
      r1s: r1s.reason ?? null,
      r10s: r10s.reason ?? null,
      r30s: r30s.reason ?? null,
    },
  };
}

function stringSummary({ stringCells }: LogFigures): RunSummary['string'] {
  return (
    stringCells && {
      lowA: stringCells.lowA,
      highA: stringCells.highA,
      atS: stringCells.atS,
      cells: stringCells.cells.map(({ figure, z, standsOut }) => ({
        mohm: figure.value,
        expandedMohm: expandedUncertainty(figure),
        z,
        standsOut,
      })),
    }
  );
}
