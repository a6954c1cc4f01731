import type { Chemistry } from '../chemistry';
import { openCircuitVoltage, typicalCell } from '../simulator';
import type { ProgramStep } from './recipe';

/** Time constant of the end of a charge while none is known from earlier runs of a model, s. */
export const USUAL_TAU_S = 25 * 60;
/** A measuring step waits for a person about this long, s. */
export const MEASURING_S = 5 * 60;

/** What a run's course is reckoned from. */
export interface CourseConditions {
  chemistry: Chemistry;
  /** Capacity expected of the cell, Ah. */
  capacityAh: number;
  /** State of charge it comes with, 0 to 1. */
  stateOfCharge: number;
  /** Of the end of charge, s; null for the usual one. */
  tauS: number | null;
  /** Most current the channel reaches, A. */
  chargeA?: number;
  dischargeA?: number;
}

/** One step of a program as it is expected to go. */
export interface ExpectedStep {
  /** Index in the program. */
  step: number;
  kind: ProgramStep['kind'];
  fromS: number;
  toS: number;
  /** State of charge at its start and end, 0 to 1. */
  fromSoc: number;
  toSoc: number;
  /** Current at its start and end, A, discharge negative. */
  fromA: number;
  toA: number;
}

/** Length of the end of a charge in which the current falls: τ·ln(I / I_taper), s (handbook, chapter 2). */
export const taperS = (amps: number, taperA: number, tauS: number): number =>
  amps > taperA ? tauS * Math.log(amps / taperA) : 0;

/** Middle current of a discharge, A. */
function loadAmps(step: Extract<ProgramStep, { kind: 'discharge' }>, nominalV: number): number {
  if (step.mode === 'current') return step.set;
  return step.mode === 'power' ? step.set / nominalV : nominalV / step.set;
}

/**
 * State of charge whose rest voltage is nearest to a voltage.
 * @example socAtRest('LFP', openCircuitVoltage('LFP', 0.5)) // 0.5
 */
export function socAtRest(chemistry: Chemistry, volts: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (openCircuitVoltage(chemistry, middle) < volts) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * How a program is expected to go, step by step, from the formulas of handbook, chapter 2,
 * "Durations": discharge Q / I, charge (1 − SoC)·Q / I and the taper.
 */
export function expectedCourse(
  program: readonly ProgramStep[],
  c: CourseConditions,
): ExpectedStep[] {
  const tauS = c.tauS ?? USUAL_TAU_S;
  const nominalV = openCircuitVoltage(c.chemistry, 0.5);
  let soc = Math.min(1, Math.max(0, c.stateOfCharge));
  let atS = 0;
  return program.map((step, index): ExpectedStep => {
    const fromSoc = soc;
    let [durationS, fromA, toA] = [0, 0, 0];
    if (step.kind === 'charge') {
      const amps = Math.min(step.amps, c.chargeA ?? Infinity);
      const room = Math.max(0, 1 - soc) * c.capacityAh;
      const ah = Math.min(room, step.limitAh ?? Infinity);
      durationS = (ah / amps) * 3600 + (ah < room ? 0 : taperS(amps, step.taperA, tauS));
      durationS = Math.min(durationS, step.maxS);
      soc += ah / c.capacityAh;
      [fromA, toA] = [amps, ah < room ? amps : step.taperA];
    } else if (step.kind === 'discharge') {
      const amps = Math.min(loadAmps(step, nominalV), c.dischargeA ?? Infinity);
      const ah = Math.min(soc * c.capacityAh, step.limitAh ?? Infinity, (amps * step.maxS) / 3600);
      durationS = (ah / amps) * 3600;
      soc -= ah / c.capacityAh;
      fromA = toA = -amps;
    } else if (step.kind === 'toStorage') {
      const target = socAtRest(c.chemistry, step.targetV);
      const ah = Math.abs(target - soc) * c.capacityAh;
      durationS = (ah / step.amps) * 3600;
      fromA = toA = target > soc ? step.amps : -step.amps;
      soc = target;
    } else if (step.kind === 'pulse') {
      durationS = step.firstS + step.secondS;
      soc = Math.max(
        0,
        soc - (step.firstA * step.firstS + step.secondA * step.secondS) / 3600 / c.capacityAh,
      );
      [fromA, toA] = [-step.firstA, -step.secondA];
    } else durationS = step.kind === 'rest' ? step.seconds : MEASURING_S;
    const fromS = atS;
    atS += durationS;
    return { step: index, kind: step.kind, fromS, toS: atS, fromSoc, toSoc: soc, fromA, toA };
  });
}

/** How long a program takes, s. */
export const courseS = (course: readonly ExpectedStep[]): number =>
  course[course.length - 1]?.toS ?? 0;

/** One point of the picture of an expected course; current positive into the cell. */
export interface CoursePoint {
  timeS: number;
  currentA: number;
  voltageV: number;
}

const POINTS_A_STEP = 24;

/** Expected current and voltage against time, for a picture. */
export function coursePoints(
  course: readonly ExpectedStep[],
  program: readonly ProgramStep[],
  c: Pick<CourseConditions, 'chemistry' | 'capacityAh' | 'tauS'>,
): CoursePoint[] {
  const cell = typicalCell(c.chemistry, c.capacityAh);
  const ohm = (cell.r0Mohm + cell.pairs[0].mohm + cell.pairs[1].mohm) / 1000;
  const tauS = c.tauS ?? USUAL_TAU_S;
  return course.flatMap((part) => {
    const step = program[part.step]!;
    const lengthS = part.toS - part.fromS;
    const tailS =
      step.kind === 'charge' ? Math.min(lengthS, taperS(part.fromA, part.toA, tauS)) : 0;
    const n = part.kind === 'rest' || lengthS === 0 ? 2 : POINTS_A_STEP;
    return Array.from({ length: n }, (_, i): CoursePoint => {
      const share = i / (n - 1);
      const inTailS = share * lengthS - (lengthS - tailS);
      const currentA =
        step.kind === 'pulse'
          ? share * lengthS < step.firstS
            ? -step.firstA
            : -step.secondA
          : inTailS > 0
            ? part.fromA * Math.exp(-inTailS / tauS)
            : part.fromA;
      const soc = part.fromSoc + (part.toSoc - part.fromSoc) * share;
      const volts = openCircuitVoltage(c.chemistry, soc) + currentA * ohm;
      return {
        timeS: part.fromS + share * lengthS,
        currentA,
        voltageV:
          step.kind === 'charge' ? Math.min(step.limitV, inTailS > 0 ? step.limitV : volts) : volts,
      };
    });
  });
}

/** Finishing time from what the current has moved so far: remaining time of a step, s. */
export function remainingS(
  step: ProgramStep,
  expected: Pick<ExpectedStep, 'fromS' | 'toS'>,
  done: { sinceS: number; ah: number; currentA: number; expectedAh: number },
): number {
  const planned = expected.toS - expected.fromS;
  const movesCharge =
    step.kind === 'charge' || step.kind === 'discharge' || step.kind === 'toStorage';
  const amps = Math.abs(done.currentA);
  if (!movesCharge || amps < 1e-6 || done.expectedAh <= 0)
    return Math.max(0, planned - done.sinceS);
  const left = Math.max(0, done.expectedAh - done.ah);
  if (step.kind === 'charge' && amps < 0.98 * step.amps)
    // In the taper the current tells how far it is.
    return amps > step.taperA ? USUAL_TAU_S * Math.log(amps / step.taperA) : 0;
  const tail = step.kind === 'charge' ? taperS(step.amps, step.taperA, USUAL_TAU_S) : 0;
  return (left / amps) * 3600 + tail;
}
